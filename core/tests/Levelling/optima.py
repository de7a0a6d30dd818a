#!/usr/bin/python3
"""Small projects with scarce resources and their optimal ends, as MiniZinc with Gecode finds them: optima.py > optima.json

Calendars, units in steps, all types of links with lags on the successor's calendar, several needs for one activity; everything in whole
hours. Nothing here knows the engine: the rules are those of docs/calculation.md, read anew. Needs the Debian package minizinc (2.6).
"""
import json
import random
import subprocess
import sys
import tempfile

HOURS = 24 * 18
CALENDARS = {  # hours of a day by day of the week, Monday first; day 0 is a Monday
    'OFFICE': [[*range(8, 12), *range(13, 17)]] * 5 + [[], []],
    'LONG': [list(range(6, 16))] * 6 + [[]],
    'ALWAYS': [list(range(24))] * 7,
}
WORKS = {k: [h % 24 in week[h // 24 % 7] for h in range(HOURS)] for k, week in CALENDARS.items()}
BEFORE = {k: [sum(w[:h]) for h in range(HOURS + 1)] for k, w in WORKS.items()}
STARTS = {k: [h for h in range(HOURS) if w[h]] for k, w in WORKS.items()}


def instance(seed):
    r = random.Random(seed)
    resources = []
    for _ in range(r.randint(1, 3)):
        units = r.randint(1, 2)
        resources.append({'calendar': r.choice(['OFFICE', 'LONG', 'ALWAYS']), 'units': [[0, units]] if r.random() < .6 else
                          [[0, units], [24 * r.randint(1, 3) + 12, max(1, units + r.choice([-1, 1]))]]})
    activities = []
    for _ in range(r.randint(5, 8)):
        calendar = r.choice(['OFFICE', 'OFFICE', 'LONG'])
        needs = []
        for at in r.sample(range(len(resources)), min(len(resources), r.choice([0, 1, 1, 1, 2]))):
            needs.append([at, r.choice([50, 100, 100])])
        activities.append({'calendar': calendar, 'hours': r.randint(2, 12), 'needs': needs})
    links = []
    for j in range(1, len(activities)):
        for i in r.sample(range(j), min(j, r.choice([0, 0, 1, 1, 2]))):
            links.append([i, j, r.choice(['FS', 'FS', 'FS', 'SS', 'FF', 'SF']), r.choice([0, 0, 0, 2, 5, -1])])
    return {'resources': resources, 'activities': activities, 'links': links}


def candidates(made, a):
    """start index => start, finish, use of each resource as {hour: share of a unit}; None where it asks too much at any rate"""
    found = []
    first = 0
    for index in range(first, len(STARTS[a['calendar']]) - a['hours']):
        begin = STARTS[a['calendar']][index]
        end = STARTS[a['calendar']][index + a['hours'] - 1] + 1
        use, may = [], True
        for at, intensity in a['needs']:
            hours = [h for h in range(begin, end) if WORKS[made['resources'][at]['calendar']][h]]
            if not hours:
                may = False
                break
            # even over the resource's own time; what rounding leaves is nobody's
            use.append((at, hours, a['hours'] * intensity * 1000 // len(hours)))
        found.append((begin, end, use) if may else None)
    return found


def solve(made):
    acts = made['activities']
    options = [candidates(made, a) for a in acts]
    lines = ['var 0..%d: end;' % HOURS]
    for i, of in enumerate(options):
        lines.append('var {%s}: s%d;' % (','.join(str(k) for k, o in enumerate(of) if o is not None), i))
        for name, at in (('b', 0), ('e', 1)):
            lines.append('array[0..%d] of int: t%s%d = array1d(0..%d, [%s]);' % (len(of) - 1, name, i, len(of) - 1, ','.join(
                str(o[at] if o else 0) for o in of)))
            lines.append('var 0..%d: %s%d = t%s%d[s%d];' % (HOURS, name, i, name, i, i))
        lines.append('constraint e%d <= end;' % i)
    for k, before in BEFORE.items():
        lines.append('array[0..%d] of int: W%s = array1d(0..%d, [%s]);' % (HOURS, k, HOURS, ','.join(map(str, before))))
    for i, j, kind, lag in made['links']:
        cal, hours = acts[j]['calendar'], acts[j]['hours']
        given = ('e%d' if kind[0] == 'F' else 'b%d') % i
        lines.append('constraint s%d %s >= W%s[%s] + %d;' % (j, '+ %d' % hours if kind[1] == 'F' else '', cal, given, lag))
    for r, resource in enumerate(made['resources']):
        users = [i for i, a in enumerate(acts) if any(at == r for at, _ in a['needs'])]
        for h in range(HOURS):
            if not WORKS[resource['calendar']][h]:
                continue
            terms = []
            for i in users:
                use = []
                for o in options[i]:
                    share = 0
                    for at, hours, rate in (o[2] if o else []):
                        if at == r and h in hours:
                            share = rate
                    use.append(share)
                if any(use):
                    name = 'u%d_%d_%d' % (i, r, h)
                    lines.append('array[0..%d] of int: t%s = array1d(0..%d, [%s]);' % (len(use) - 1, name, len(use) - 1, ','.join(
                        map(str, use))))
                    terms.append('t%s[s%d]' % (name, i))
            units = [u for since, u in resource['units'] if since <= h][-1]
            if terms:
                lines.append('constraint %s <= %d;' % (' + '.join(terms), units * 100_000))
    lines.append('solve :: int_search([%s], smallest, indomain_min, complete) minimize end;' % ','.join(
        's%d' % i for i in range(len(acts))))
    lines.append('output ["end=", show(end), "\\n"];')
    with tempfile.NamedTemporaryFile('w', suffix='.mzn') as f:
        f.write('\n'.join(lines))
        f.flush()
        out = subprocess.run(['minizinc', '--solver', 'gecode', '--time-limit', '15000', f.name], capture_output=True, text=True)
    ends = [int(x[4:]) for x in out.stdout.splitlines() if x.startswith('end=')]
    return (ends[-1] if ends else None), '==========' in out.stdout


def main():
    kept, seed = [], 0
    while len(kept) < int(sys.argv[1] if len(sys.argv) > 1 else 60):
        seed += 1
        made = instance(seed)
        if not any(len(o) and any(x for x in o) for o in [candidates(made, a) for a in made['activities']]):
            continue
        end, proven = solve(made)
        print(seed, end, proven, file=sys.stderr, flush=True)
        if end is not None and proven:
            kept.append(made | {'seed': seed, 'end': end})
    json.dump({'source': 'MiniZinc with Gecode, both from Debian; every end is proven', 'instances': kept}, sys.stdout, separators=(',', ':'))


main()
