"""How long things take: a painter's own pace, and how long paint stays wet."""
