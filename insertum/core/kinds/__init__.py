"""Kinds of parts: one module each, all of one protocol. Look one up with :func:`insertum.core.kinds.all.kind_of`."""
