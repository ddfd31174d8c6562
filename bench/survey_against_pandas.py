#!/usr/bin/env python3
"""Times the import's reading of a survey of a million points against pandas' C reader on the same file, in turns, and prints the
ratio. Needs python3-pandas. Usage: bench/survey_against_pandas.py [build/release/bench/fox_bench]"""
import os, re, subprocess, sys, tempfile, time

import pandas

bench = sys.argv[1] if len(sys.argv) > 1 else "build/release/bench/fox_bench"
with tempfile.TemporaryDirectory() as folder:
    path = os.path.join(folder, "survey.csv")
    ours, theirs, words = [], [], ""
    for _ in range(3):
        words = subprocess.run([bench, "survey"], env={**os.environ, "FOX_BENCH_SURVEY": path}, capture_output=True, text=True).stdout
        ours.append(float(re.search(r"points: ([0-9.]+) s", words).group(1)))
        start = time.perf_counter()
        rows = len(pandas.read_csv(path))
        theirs.append(time.perf_counter() - start)
    print(words.splitlines()[0])
    print(f"pandas.read_csv of the same {rows} rows: {min(theirs):.3f} s; ratio {min(ours) / min(theirs):.2f} (at most 1.2)")
