"""Reads iCalendar with libical (C), through its introspection, and writes what it understood as JSON, for tests.

libical 3.0 is older than RFC 9253 and drops its GAP parameter: it gives none.
"""
import json
import sys

import gi

gi.require_version('ICalGLib', '3.0')
from gi.repository import ICalGLib as I  # noqa: E402


def moment(t):
    if t is None or t.is_null_time():
        return None
    day = '%04d-%02d-%02d' % (t.get_year(), t.get_month(), t.get_day())
    return day if t.is_date() else '%sT%02d:%02d%s' % (day, t.get_hour(), t.get_minute(), 'Z' if t.is_utc() else '')


def properties(c, kind):
    found = []
    p = c.get_first_property(kind)
    while p is not None:
        found.append(p)
        p = c.get_next_property(kind)
    return found


def first(c, kind):
    found = properties(c, kind)
    return found[0] if found else None


def value(c, kind):
    p = first(c, kind)
    return '' if p is None else p.get_value_as_string()


def todo(c):
    due = first(c, I.PropertyKind.DUE_PROPERTY) or first(c, I.PropertyKind.DTEND_PROPERTY)
    start = first(c, I.PropertyKind.DTSTART_PROPERTY)
    percent = first(c, I.PropertyKind.PERCENTCOMPLETE_PROPERTY)
    summary = first(c, I.PropertyKind.SUMMARY_PROPERTY)
    description = first(c, I.PropertyKind.DESCRIPTION_PROPERTY)
    return {
        'kind': 'VTODO' if c.isa() == I.ComponentKind.VTODO_COMPONENT else 'VEVENT', 'uid': c.get_uid(),
        'summary': '' if summary is None else summary.get_summary(),
        'description': '' if description is None else description.get_description(),
        'start': None if start is None else moment(start.get_value().get_date() if start.get_value().isa() == I.ValueKind.DATE_VALUE
                                                   else start.get_value().get_datetime()),
        'end': None if due is None else moment(due.get_value().get_date() if due.get_value().isa() == I.ValueKind.DATE_VALUE
                                               else due.get_value().get_datetime()),
        'percent': None if percent is None else percent.get_percentcomplete(),
        'status': value(c, I.PropertyKind.STATUS_PROPERTY) or None,
        'categories': sorted(p.get_categories() for p in properties(c, I.PropertyKind.CATEGORIES_PROPERTY)),
        'related': sorted([p.get_parameter_as_string('RELTYPE') or 'PARENT', p.get_relatedto(), 0]
                          for p in properties(c, I.PropertyKind.RELATEDTO_PROPERTY)),
        'faults': [p.get_value_as_string() for p in properties(c, I.PropertyKind.XLICERROR_PROPERTY)],
    }


with open(sys.argv[1], encoding='utf-8', newline='') as f:
    root = I.Component.new_from_string(f.read())
items = []
calendars = [root] if root.isa() == I.ComponentKind.VCALENDAR_COMPONENT else []
c = root.get_first_component(I.ComponentKind.VCALENDAR_COMPONENT) if not calendars else None
while c is not None:
    calendars.append(c)
    c = root.get_next_component(I.ComponentKind.VCALENDAR_COMPONENT)
for calendar in calendars:
    for kind in (I.ComponentKind.VTODO_COMPONENT, I.ComponentKind.VEVENT_COMPONENT):
        c = calendar.get_first_component(kind)
        while c is not None:
            items.append(todo(c))
            c = calendar.get_next_component(kind)
json.dump(items, sys.stdout)
