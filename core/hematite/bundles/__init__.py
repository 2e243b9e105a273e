"""Bundles: the open format of a case or of a whole vehicle, version 1, read and written as a folder or a .zip."""

from hematite.bundles.case import Case, assess_case, hear_case
from hematite.bundles.reading import read_bundle, read_case, vehicle_from_json
from hematite.bundles.vehicle import FORMAT, Parcel, read_parcel
from hematite.bundles.writing import case_json, vehicle_to_json, write_bundle

__all__ = [
    "FORMAT",
    "Case",
    "Parcel",
    "assess_case",
    "case_json",
    "hear_case",
    "read_bundle",
    "read_case",
    "read_parcel",
    "vehicle_from_json",
    "vehicle_to_json",
    "write_bundle",
]
