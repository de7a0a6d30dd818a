// Reads iCalendar or jCal with ical.js and writes what it understood as JSON, for tests.
import { readFileSync } from 'node:fs';
import ICAL from 'ical.js';

const text = readFileSync(process.argv[2], 'utf8');
const parsed = text.trimStart().startsWith('[') ? JSON.parse(text) : ICAL.parse(text);
const calendars = typeof parsed[0] === 'string' ? [parsed] : parsed;
const moment = (v) => v && (v.isDate ? v.toString() : v.toString().slice(0, 16) + (v.zone === ICAL.Timezone.utcTimezone ? 'Z' : ''));
const gap = (p) => (p.getParameter('gap') ? ICAL.Duration.fromString(p.getParameter('gap')).toSeconds() / 60 : 0);
const items = [];
for (const calendar of calendars) {
    for (const c of new ICAL.Component(calendar).getAllSubcomponents()) {
        if (!['vtodo', 'vevent'].includes(c.name)) continue;
        items.push({
            kind: c.name.toUpperCase(), uid: c.getFirstPropertyValue('uid'), summary: c.getFirstPropertyValue('summary') ?? '',
            description: c.getFirstPropertyValue('description') ?? '', start: moment(c.getFirstPropertyValue('dtstart')),
            end: moment(c.getFirstPropertyValue('due') ?? c.getFirstPropertyValue('dtend')),
            percent: c.getFirstPropertyValue('percent-complete') === null ? null : Number(c.getFirstPropertyValue('percent-complete')),
            status: c.getFirstPropertyValue('status'),
            categories: c.getAllProperties('categories').flatMap((p) => p.getValues()).sort(),
            related: c.getAllProperties('related-to').map((p) => [p.getParameter('reltype') ?? 'PARENT', p.getFirstValue(), gap(p)])
                .sort((a, b) => (JSON.stringify(a) < JSON.stringify(b) ? -1 : 1)),
        });
    }
}
process.stdout.write(JSON.stringify(items));
