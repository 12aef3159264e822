"""The core of Notch Board: pure computation, no framework, no clock, no files, no chance but a given seed.

Data flows one way: measure -> design -> check -> nest -> plan -> run; `formats` writes and reads files.
Lengths are millimetres, angles radians, times seconds, unless a name ends in another unit.
"""
