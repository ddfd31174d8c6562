#!/usr/bin/env python3
"""Ordinary kriging with variance by the tool against the same algebra in numpy with OpenBLAS, in turns: the ratio of the best times.

    kriging_against_numpy.py fox-cellar-run [POINTS] [CELLS ACROSS]

Needs numpy with OpenBLAS (python3-numpy, libopenblas-dev). Both start their process and write their grids.
"""
import subprocess
import sys
import tempfile
import time
from pathlib import Path

JOB = """
import sys
import numpy as np
points, out, cells = sys.argv[1], sys.argv[2], int(sys.argv[3])
xyz = np.loadtxt(points, delimiter=",", skiprows=1)
x, y, z = xyz.T
nugget, sill, reach = 0.1, 100.0, 4000.0

def covariance(h):
    t = np.minimum(h / reach, 1)
    return np.where(h == 0, nugget + sill, sill * (1 - t * (1.5 - 0.5 * t * t)))

c = covariance(np.hypot(x[:, None] - x, y[:, None] - y))
lower = np.linalg.cholesky(c)
inverse = np.linalg.inv(lower)
u = inverse @ np.ones(len(x))
uu = u @ u
w = inverse @ z
mean = u @ w / uu
alpha = inverse.T @ (w - mean * u)
cell = 10000 / cells
centres = (np.arange(cells) + 0.5) * cell
values, variances = np.empty((cells, cells)), np.empty((cells, cells))
for row in range(cells):
    k = covariance(np.hypot(x[:, None] - centres, y[:, None] - centres[row]))
    values[row] = mean + alpha @ k
    q = inverse @ k
    miss = 1 - u @ q
    variances[row] = nugget + sill - np.einsum("ij,ij->j", q, q) + miss * miss / uu
np.save(out, np.stack([values, variances]))
"""


def main():
    run, count, cells = sys.argv[1], int(sys.argv[2]) if len(sys.argv) > 2 else 300, int(sys.argv[3]) if len(sys.argv) > 3 else 500
    with tempfile.TemporaryDirectory() as folder:
        folder = Path(folder)
        state, rows = 1, []
        for _ in range(count):
            row = []
            for _ in range(3):
                state = state * 6364136223846793005 + 1442695040888963407 & (1 << 64) - 1
                row.append((state >> 33) / (1 << 31))
            rows.append(f"{row[0] * 10000:.3f},{row[1] * 10000:.3f},{row[2] * 30:.3f}")
        points = folder / "points.csv"
        points.write_text("x,y,z\n" + "\n".join(rows) + "\n")
        job = folder / "job.py"
        job.write_text(JOB)
        ours = [run, "surface", "--points", points, "--method", "kriging", "--frame", "0,0,10000,10000", "--cell", str(10000 / cells),
                "--variogram", "spherical,0.1,100,4000", "--variance", folder / "v.tif", "--out", folder / "z.tif"]
        theirs = ["/usr/bin/python3", job, points, folder / "out.npy", str(cells)]
        best = {}
        for _ in range(5):
            for name, call in (("tool", ours), ("numpy", theirs)):
                start = time.perf_counter()
                subprocess.run(list(map(str, call)), check=True, stdout=subprocess.DEVNULL)
                best[name] = min(best.get(name, 1e9), time.perf_counter() - start)
        print(f"kriging with variance, {count} points, {cells} x {cells}: tool {best['tool']:.2f} s, numpy {best['numpy']:.2f} s, "
              f"ratio {best['tool'] / best['numpy']:.2f} (at most 1.0)")


main()
