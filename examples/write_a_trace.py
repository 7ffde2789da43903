#!/usr/bin/env python3
"""Writes a trace from a loop that knows nothing of Wumple: what any game in any language can do.

    python3 examples/write_a_trace.py jump.csv
    wumple draw demo/throwing-room.level.toml --tuning demo/dab.tuning.toml --trace jump.csv --figure jump.png
    wumple compare jump.csv demo/dab.tuning.toml --level demo/throwing-room.level.toml --press "0 right; 12 right jump" --ticks 70
    wumple match jump.csv --rate 60 --tile 16 --y down

The columns are those of docs/trace-format.md: px, y down, one row for the start and one for each tick.
"""

import csv
import sys

RATE = 60
TILE = 16.0
HEIGHT, TIME_TO_APEX = 2.2 * TILE, 0.32
GRAVITY, TAKE_OFF = 2 * HEIGHT / TIME_TO_APEX**2, 2 * HEIGHT / TIME_TO_APEX
TOP_SPEED, ACCELERATION = 4 * TILE, 4 * TILE / 0.1
FLOOR = 256.0
JUMP_IN = 12
TICKS = 70

HEAD = ["tick", "time_s", "x_px", "y_px", "vx_px_s", "vy_px_s", "state", "facing", "support", "contacts", "events"]


def main(path):
    dt = 1 / RATE
    x, y, along, down = 24.0, FLOOR, 0.0, 0.0
    stands = True
    with open(path, "w", newline="") as file:
        trace = csv.writer(file, lineterminator="\n")
        trace.writerow(HEAD)
        trace.writerow([0, 0.0, x, y, along, down, "stand", "right", "solid", "below", ""])
        for tick in range(1, TICKS + 1):
            events = []
            along = min(along + ACCELERATION * dt, TOP_SPEED)
            if tick == JUMP_IN and stands:
                down, stands = -TAKE_OFF, False
                events.append("jumped:ground")
            if not stands:
                down += GRAVITY * dt
            x, y = x + along * dt, y + down * dt
            if not stands and y >= FLOOR:
                events.append(f"landed:{down:.3f}")
                y, down, stands = FLOOR, 0.0, True
            state = "run" if stands else "rise" if down < 0 else "fall"
            held_up = ["solid", "below"] if stands else ["none", ""]
            trace.writerow([tick, tick * dt, x, y, along, down, state, "right", *held_up, ";".join(events)])


main(sys.argv[1] if len(sys.argv) > 1 else "jump.csv")
