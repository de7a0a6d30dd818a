"""Reads iCalendar with python3-icalendar and writes what it understood as JSON, for tests."""
import json
import sys
from datetime import date, datetime, timedelta

from icalendar import Calendar
from icalendar.prop import vDuration


def moment(p):
    if p is None:
        return None
    v = p.dt
    if isinstance(v, datetime):
        return v.strftime('%Y-%m-%dT%H:%M') + ('Z' if v.tzinfo is not None and v.utcoffset() == timedelta(0) else '')
    return v.isoformat() if isinstance(v, date) else None


def many(p):
    return [] if p is None else p if isinstance(p, list) else [p]


def gap(p):
    text = p.params.get('GAP')
    return 0 if text is None else int(vDuration.from_ical(text).total_seconds() // 60)


with open(sys.argv[1], 'rb') as f:
    calendars = Calendar.from_ical(f.read(), multiple=True)
items = []
for calendar in calendars:
    for c in calendar.walk():
        if c.name not in ('VTODO', 'VEVENT'):
            continue
        items.append({
            'kind': c.name, 'uid': str(c['UID']), 'summary': str(c.get('SUMMARY', '')), 'description': str(c.get('DESCRIPTION', '')),
            'start': moment(c.get('DTSTART')), 'end': moment(c.get('DUE') or c.get('DTEND')),
            'percent': int(c['PERCENT-COMPLETE']) if 'PERCENT-COMPLETE' in c else None, 'status': str(c.get('STATUS', '')) or None,
            'categories': sorted(str(v) for p in many(c.get('CATEGORIES')) for v in p.cats),
            'related': sorted([str(p.params.get('RELTYPE', 'PARENT')), str(p), gap(p)] for p in many(c.get('RELATED-TO'))),
        })
json.dump(items, sys.stdout)
