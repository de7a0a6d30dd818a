// Changes a file of ours with ical.js, as a program of somebody else does, for tests.
import { readFileSync } from 'node:fs';
import ICAL from 'ical.js';

const wish = JSON.parse(process.argv[2]);
const calendar = new ICAL.Component(ICAL.parse(readFileSync(0, 'utf8')));
const by = new Map(calendar.getAllSubcomponents('vtodo').map((c) => [c.getFirstPropertyValue('uid'), c]));
const at = (text, end = '') => ICAL.Time.fromDateTimeString(`${text}:00${end}`);
by.get(wish.move[0]).updatePropertyWithValue('dtstart', at(wish.move[1]));
by.get(wish.move[0]).updatePropertyWithValue('due', at(wish.move[2]));
by.get(wish.due[0]).updatePropertyWithValue('due', at(wish.due[1]));
const done = by.get(wish.done[0]);
done.updatePropertyWithValue('status', 'COMPLETED');
done.updatePropertyWithValue('percent-complete', 100);
done.updatePropertyWithValue('completed', at(wish.done[1], 'Z'));
by.get(wish.name[0]).updatePropertyWithValue('summary', wish.name[1]);
by.get(wish.cancel[0]).updatePropertyWithValue('status', 'CANCELLED');
for (const p of by.get(wish.gap[0]).getAllProperties('related-to')) {
    if (p.getFirstValue() === wish.gap[1]) p.setParameter('gap', `PT${wish.gap[2]}M`);
}
const made = new ICAL.Component('vtodo');
made.updatePropertyWithValue('uid', 'made-elsewhere');
made.updatePropertyWithValue('dtstamp', at('2026-03-01T00:00', 'Z'));
made.updatePropertyWithValue('summary', wish.new[1]);
made.updatePropertyWithValue('dtstart', at('2026-05-04T08:00'));
made.updatePropertyWithValue('due', at('2026-05-04T12:00'));
made.updatePropertyWithValue('related-to', wish.new[0]);
calendar.addSubcomponent(made);
by.get(wish.describe[0]).updatePropertyWithValue('description', wish.describe[1]);
process.stdout.write(calendar.toString());
