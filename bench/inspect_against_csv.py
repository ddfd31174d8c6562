#!/usr/bin/env python3
"""Times `fox-cellar-run inspect` on a made-up AGS 4 file of about 100 MB (3,000 holes) against Python's csv reader on the
same file, and takes the tool's peak memory. Usage: bench/inspect_against_csv.py [build/release/src/run/fox-cellar-run]"""
import csv, os, random, resource, subprocess, sys, tempfile, time

HOLES, INTERVALS, BLOWS, READINGS = 3000, 16, 20, 620
WORDS = "Firm to stiff reddish brown slightly sandy slightly gravelly CLAY. Gravel is subangular to subrounded fine to coarse."


def write(path):
    random.seed(1)
    row = lambda *cells: ",".join(f'"{c}"' for c in cells) + "\r\n"

    def group(f, name, headings, units, types):
        f.write("\r\n" + row("GROUP", name) + row("HEADING", *headings.split()) + row("UNIT", *units.split("|")) + row("TYPE", *types.split()))

    with open(path, "w", newline="") as f:
        group(f, "PROJ", "PROJ_ID PROJ_NAME", "|", "ID X")
        f.write(row("DATA", "P1", "Large"))
        group(f, "LOCA", "LOCA_ID LOCA_TYPE LOCA_NATE LOCA_NATN LOCA_GL LOCA_FDEP", "||m|m|m|m", "ID PA 2DP 2DP 2DP 2DP")
        for i in range(HOLES):
            f.write(row("DATA", f"BH{i:05}", "RC", f"{480000 + random.random() * 5000:.2f}", f"{6120000 + random.random() * 5000:.2f}",
                        f"{20 + random.random() * 10:.2f}", "32.00"))
        group(f, "GEOL", "LOCA_ID GEOL_TOP GEOL_BASE GEOL_DESC GEOL_GEOL", "|m|m||", "ID 2DP 2DP X PA")
        for i in range(HOLES):
            for k in range(INTERVALS):
                f.write(row("DATA", f"BH{i:05}", f"{k * 2}.00", f"{k * 2 + 2}.00", WORDS, "ABCD"[k // 4]))
        group(f, "ISPT", "LOCA_ID ISPT_TOP ISPT_NVAL", "|m|", "ID 2DP 0DP")
        for i in range(HOLES):
            for k in range(BLOWS):
                f.write(row("DATA", f"BH{i:05}", f"{1 + k * 1.5:.2f}", random.randint(1, 60)))
        group(f, "SCPT", "LOCA_ID SCPG_TESN SCPT_DPTH SCPT_RES SCPT_FRES", "||m|MN/m2|MN/m2", "ID X 2DP 4DP 4DP")
        for i in range(HOLES):
            for k in range(READINGS):
                f.write(row("DATA", f"BH{i:05}", "1", f"{k * 0.05:.2f}", f"{random.random() * 20:.4f}", f"{random.random():.4f}"))


def write_descriptions(path):
    """Nine tenths of it are descriptions with doubled quotes."""
    words = ('Firm to stiff ""brown"" and grey mottled slightly sandy slightly gravelly CLAY. Gravel is ""subrounded"" fine to coarse of '
             'various lithologies. Sand is fine and ""medium"" with rare rootlets and pockets of ""black"" organic silt, 20 x 40 mm. ')
    words = words + words + words[:200]
    with open(path, "w", newline="") as f:
        f.write('"GROUP","PROJ"\r\n"HEADING","PROJ_ID"\r\n"UNIT",""\r\n"TYPE","ID"\r\n"DATA","P1"\r\n\r\n'
                '"GROUP","LOCA"\r\n"HEADING","LOCA_ID","LOCA_NATE","LOCA_NATN","LOCA_GL","LOCA_FDEP"\r\n'
                '"UNIT","","m","m","m","m"\r\n"TYPE","ID","2DP","2DP","2DP","2DP"\r\n')
        for i in range(4 * HOLES):
            f.write(f'"DATA","BH{i}","{480000 + i % 500 * 3:.2f}","{6120000 + i // 500 * 7:.2f}","30.00","20.00"\r\n')
        f.write('\r\n"GROUP","GEOL"\r\n"HEADING","LOCA_ID","GEOL_TOP","GEOL_BASE","GEOL_DESC","GEOL_LEG"\r\n'
                '"UNIT","","m","m","",""\r\n"TYPE","ID","2DP","2DP","X","PA"\r\n')
        size = k = 0
        while size < 100e6:
            top = k // (4 * HOLES)
            size += f.write(f'"DATA","BH{k % (4 * HOLES)}","{top}.00","{top + 1}.00","{words}","LC"\r\n')
            k += 1


def fastest(times, act):
    best = None
    for _ in range(times):
        start = time.perf_counter()
        act()
        spent = time.perf_counter() - start
        best = spent if best is None else min(best, spent)
    return best


def peak_of(command):
    """Peak memory of the command in bytes."""
    said = subprocess.run(["/usr/bin/env", "python3", "-c", "import resource,subprocess,sys; subprocess.run(sys.argv[1:],stdout=subprocess.DEVNULL,stderr=subprocess.DEVNULL); print(resource.getrusage(resource.RUSAGE_CHILDREN).ru_maxrss)", *command],
                          stdout=subprocess.PIPE, text=True)
    return int(said.stdout) * 1024


def read_csv(path):
    with open(path, newline="") as f:
        return sum(len(r) for r in csv.reader(f))


tool = sys.argv[1] if len(sys.argv) > 1 else "build/release/src/run/fox-cellar-run"
for what, make, most, room in (("3,000 holes with soundings", write, 0.33, 6), ("descriptions with doubled quotes", write_descriptions, 0.5, 4)):
  with tempfile.TemporaryDirectory() as folder:
    path = os.path.join(folder, "large.ags")
    make(path)
    size = os.path.getsize(path)
    ours = fastest(5, lambda: subprocess.run([tool, "inspect", path, "--json"], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL, check=True))
    checked = fastest(3, lambda: subprocess.run([tool, "check", path, "--json"], stdout=subprocess.DEVNULL, stderr=subprocess.DEVNULL))
    memory = peak_of([tool, "inspect", path, "--json"])
    theirs = fastest(5, lambda: read_csv(path))
    print(f"{size / 1e6:.0f} MB, {what}: inspect {ours:.2f} s, Python's csv reader {theirs:.2f} s, ratio {ours / theirs:.2f} (at most {most})")
    print(f"  check {checked:.2f} s, {checked / ours:.2f} times inspect (at most 2); peak memory {memory / 1e6:.0f} MB, {memory / size:.1f} times the file (under {room})")
