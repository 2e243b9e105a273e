"""The demo's sign-in. Offered only while HEMATITE_DEMO is on."""

SIGN_IN = {"username": "mechanic", "password": "quillmere-demo"}
WORKSHOP = "Quillmere Library Service"
