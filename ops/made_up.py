"""One made-up person's word, vehicle and way to record: what trials send to a server of their own."""

WORD = "bench-vice-42"  # of the one person there is
MADE = {"place": "A1L", "gain_group": "g", "speed": {"kind": "wheel", "turns_per_s": 8.0}}
HUBS = [{"id": f"A1{s[0].upper()}", "side": s, "design": "hub_unit", "bearings": []} for s in ("left", "right")]
VAN = {"label": "Van", "tyre": "215/65 R16", "axles": [{"driven": True, "steered": True, "hubs": HUBS}]}
