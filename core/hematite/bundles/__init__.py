"""Case bundles: the open format, version 1, read and written as a folder or a .zip."""

from hematite.bundles.case import Case, assess_case, hear_case
from hematite.bundles.reading import read_bundle, read_case, vehicle_from_json
from hematite.bundles.writing import write_bundle

__all__ = ["Case", "assess_case", "hear_case", "read_bundle", "read_case", "vehicle_from_json", "write_bundle"]
