"""Which step when: sources and turns, the step clock, directions; what strips say at each; measures and meetings."""
