"""A case, or a vehicle with all its cases, out of the workshop as an open bundle, and in from another."""
