"""Several machines: the pieces of a run as tasks of a Dask cluster, which renders nothing but Altana's own
orders."""
