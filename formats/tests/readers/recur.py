"""Occurrences of recurrence rules as python3-dateutil says them, for tests: [start, rule, days, most] lines in, lists of starts out."""
import json
import sys
import warnings
from datetime import datetime, timedelta
from itertools import islice, takewhile

from dateutil.rrule import rrulestr

warnings.simplefilter('ignore')  # COUNT and UNTIL together
answers = []
for start, rule, days, most in json.load(sys.stdin):
    begin = datetime.fromisoformat(start)
    last = datetime(begin.year, begin.month, begin.day) + timedelta(days=days + 1)
    try:
        found = islice(takewhile(lambda at: at < last, rrulestr(rule, dtstart=begin).replace(until=last)), most)
    except ValueError:  # no moment ever meets the rule
        found = []
    answers.append([at.isoformat(timespec='minutes') for at in found])
print(json.dumps(answers))
