"""Reads iCalendar with python3-vobject and writes what it understood as JSON, for tests."""
import json
import sys
from datetime import date, datetime, timedelta

import vobject
from vobject.icalendar import stringToDurations


def moment(p):
    v = None if p is None else p.value
    if isinstance(v, datetime):
        return v.strftime('%Y-%m-%dT%H:%M') + ('Z' if v.tzinfo is not None and v.utcoffset() == timedelta(0) else '')
    return v.isoformat() if isinstance(v, date) else None


def one(c, name):
    found = c.contents.get(name)
    return found[0] if found else None


def text(c, name):
    p = one(c, name)
    return '' if p is None else p.value


def gap(p):
    written = p.params.get('GAP')
    return 0 if written is None else int(stringToDurations(written[0])[0].total_seconds() // 60)


items = []
with open(sys.argv[1], encoding='utf-8', newline='') as f:
    for calendar in vobject.readComponents(f):
        for c in calendar.components():
            if c.name not in ('VTODO', 'VEVENT'):
                continue
            percent = one(c, 'percent-complete')
            items.append({
                'kind': c.name, 'uid': c.uid.value, 'summary': text(c, 'summary'), 'description': text(c, 'description'),
                'start': moment(one(c, 'dtstart')), 'end': moment(one(c, 'due') or one(c, 'dtend')),
                'percent': None if percent is None else int(percent.value), 'status': text(c, 'status') or None,
                'categories': sorted(v for p in c.contents.get('categories', []) for v in p.value),
                'related': sorted([p.params.get('RELTYPE', ['PARENT'])[0], p.value, gap(p)] for p in c.contents.get('related-to', [])),
            })
json.dump(items, sys.stdout)
