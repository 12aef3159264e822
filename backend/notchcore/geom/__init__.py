"""Plane and solid geometry: the only importer of shapely and manifold3d."""
