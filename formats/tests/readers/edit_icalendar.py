"""Changes a file of ours with python3-icalendar, as a program of somebody else does, for tests."""
import json
import sys
from datetime import datetime, timedelta

from icalendar import Calendar, Todo, vDatetime, vText

wish = json.loads(sys.argv[1])
calendar = Calendar.from_ical(sys.stdin.buffer.read())


def at(text):
    return datetime.fromisoformat(text)


def put(c, name, value):
    c.pop(name, None)
    c.add(name, value)


by = {str(c['UID']): c for c in calendar.walk('VTODO')}
c = by[wish['move'][0]]
put(c, 'DTSTART', at(wish['move'][1]))
put(c, 'DUE', at(wish['move'][2]))
put(by[wish['due'][0]], 'DUE', at(wish['due'][1]))
c = by[wish['done'][0]]
put(c, 'STATUS', 'COMPLETED')
put(c, 'PERCENT-COMPLETE', 100)
c['COMPLETED'] = vDatetime.from_ical(wish['done'][1].replace('-', '').replace(':', '') + '00Z')
c['COMPLETED'] = vText(wish['done'][1].replace('-', '').replace(':', '') + '00Z')
put(by[wish['name'][0]], 'SUMMARY', wish['name'][1])
put(by[wish['cancel'][0]], 'STATUS', 'CANCELLED')
c = by[wish['gap'][0]]
for related in (c['RELATED-TO'] if isinstance(c['RELATED-TO'], list) else [c['RELATED-TO']]):
    if str(related) == wish['gap'][1]:
        related.params['GAP'] = 'PT%dM' % wish['gap'][2]
new = Todo()
new.add('UID', 'made-elsewhere')
new.add('DTSTAMP', datetime(2026, 3, 1))
new.add('SUMMARY', wish['new'][1])
new.add('DTSTART', datetime(2026, 5, 4, 8))
new.add('DUE', datetime(2026, 5, 4, 8) + timedelta(hours=4))
new.add('RELATED-TO', wish['new'][0])
calendar.add_component(new)
by[wish['describe'][0]].add('DESCRIPTION', wish['describe'][1])
sys.stdout.buffer.write(calendar.to_ical())
