"""The server: its application, its start, who may come, processes that compute."""
