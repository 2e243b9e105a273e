"""Power cuts and full disks, on purpose: nothing that was confirmed may be lost."""
