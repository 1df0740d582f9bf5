"""The engine of Jolly Lattice: a score, a dice number and a window of time become events.

Pure Python: no interface, database, clock or I/O. Start reading at `lattice.render.render`.
"""
