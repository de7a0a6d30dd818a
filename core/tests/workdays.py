"""
Working days counted and stepped by NumPy (Harris et al.: "Array programming with NumPy", Nature 585, 2020; busday_count and
busday_offset). Reads a list of questions from standard input, writes the answers to standard output.
"""
import json
import sys

import numpy as np

answers = []
for q in json.load(sys.stdin):
    how = {"weekmask": q["mask"], "holidays": np.array(q["holidays"], dtype="datetime64[D]")}
    count = np.busday_count(q["from"], q["to"], **how)
    day = np.busday_offset(q["from"], q["days"], roll="forward", **how)
    answers.append([int(count), str(day)])
json.dump(answers, sys.stdout)
