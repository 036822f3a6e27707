"""Prints the state of the mill pond."""
import numpy as np

print("levels:", [np.float32(1.5), np.float64(2.5)])
print("turn:", np.cross([1, 0], [0, 1]))
print("hours:", np.in1d([1], [1, 2]))
print("area:", np.trapz([1, 2]))
print("shares:", np.product([1, 2]))
