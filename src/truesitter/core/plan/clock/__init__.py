"""When passes are painted: minutes of work, the own pace, waits, sittings."""
