export default {
    app: { name: 'Reihe', find: 'Find or do …', signOut: 'Sign out', appearance: { auto: 'Appearance: system', light: 'Appearance: light', dark: 'Appearance: dark' }, user: 'User', places: 'Places', keys: 'Keys', close: 'Close', retry: 'Try again', nothing: 'Nothing found.' },
    places: { portfolio: 'Portfolio', board: 'Board', exchange: 'Exchange', library: 'Library' },
    roles: { viewer: 'viewer', contributor: 'contributor', planner: 'planner', approver: 'approver', administrator: 'administrator' },
    library: {
        users: 'Users and access', find: 'Find a user', add: 'add user', create: 'Add user', name: 'Name', email: 'E-mail', roles: 'Roles', noRole: 'No role on any branch you see', state: 'State', active: 'active', inactive: 'deactivated', notYours: 'Users and access are kept by administrators.',
        rolesAbout: 'A role on a branch holds for everything below it; each includes the ones before it.', roleOn: 'Role on {branch}', branch: 'Branch', role: 'Role', access: 'Access', activeAbout: 'May sign in. Deactivating ends all sessions and tokens at once; nothing the user did is lost.', inactiveAbout: 'Cannot sign in, neither with a password nor with a token.', deactivate: 'Deactivate', activate: 'Activate',
        reset: 'New password', resetNow: 'Give a new password', resetAbout: 'The present password, all sessions and all tokens of this user end.', password: 'First password, shown only now:', historyTitle: 'History',
        history: { added: 'added by {author}', renamed: 'renamed to {detail} by {author}', activated: 'activated by {author}', deactivated: 'deactivated by {author}', password: 'new password given by {author}', role: '{detail}, by {author}' },
    },
    ownPassword: { title: 'Change password', about: 'At least 10 characters. Your other sessions and all your tokens end.', current: 'Present password', new: 'New password', save: 'Change password', done: 'The password is changed.' },
    signIn: { title: 'Sign in', again: 'Sign in again', againHint: 'Your session ended. What you typed is kept and is saved after you sign in.', email: 'E-mail', password: 'Password', submit: 'Sign in', demo: 'Demo users', demoHint: 'Varnsund Ferries is invented. Choose a person to look at it with their rights.' },
    command: { go: 'Go to {place}', commands: 'Commands' },
    card: { title: 'Try this', dismiss: 'Do not show again' },
    portfolio: {
        group: 'Group by', hierarchy: 'Hierarchy', filter: 'Filter', filterBy: '{set}', newProject: 'new project', newBranch: 'new branch', newSet: 'new code set', open: 'open {n} on the board', selected: '{n} selected', columns: { key: 'Key', name: 'Project', finish: 'Finish', done: 'Done', float: 'Float', margin: 'Margin' },
        without: 'No value', empty: 'No project here yet. Make one with “new project”, or import one under Exchange.', try: 'Select two or more projects (Ctrl or Shift with a click) and open them together on the board. Change a duration there and watch what it does to the others.',
        project: { title: 'New project', name: 'Name', branch: 'Branch', key: 'Key', start: 'Start', calendar: 'Calendar', create: 'Create project', keyTaken: 'This key is taken.', keyHint: 'Capital letters, digits and “-”; prefix of the activity codes.' },
        branch: { title: 'New branch', name: 'Name', parent: 'Parent branch', create: 'Create branch' },
        codes: { title: 'Codes', none: 'No value', newValue: 'new entry', new: 'New entry in {set}', top: 'Top level', create: 'Create and assign', setName: 'Name of the code set', setCreate: 'Create code set' },
        details: { start: 'Start', finish: 'Finish', status: 'Status date', deadline: 'Deadline', activities: 'Activities', branch: 'Branch', lead: 'Project lead', openBoard: 'Open on the board' },
    },
    clash: {
        title: 'Somebody else changed this in the meantime. | {count} things were changed by somebody else in the meantime.', theirs: 'Keep theirs', mine: 'Use mine', nothing: 'nothing', yes: 'yes', no: 'no',
        field: '{label}, {field}: theirs {theirs}, yours {yours}', deleted: '{label} was changed after you last saw it and would be deleted',
        fields: { key: 'key', name: 'name', code: 'code', branch: 'branch', calendar: 'calendar', start: 'start', statusDate: 'status date', deadline: 'deadline', floatMeasure: 'float measure', criticalBy: 'critical by', criticalDays: 'critical limit', nearCriticalDays: 'near-critical limit', outOfSequence: 'out-of-sequence work', lagCalendar: 'lag calendar', lead: 'project lead', colour: 'colour', project: 'project', parent: 'parent', wbs: 'WBS element', position: 'position', kind: 'kind', duration: 'duration', estimate: 'estimate mark', constraints: 'constraints', actualStart: 'actual start', actualFinish: 'actual finish', remaining: 'remaining duration', resume: 'resume date', suspend: 'suspension', percentBy: 'percent by', physicalPercent: 'physical percent', checklist: 'checklist', actualWork: 'actual work', remainingWork: 'remaining work', cost: 'cost', from: 'predecessor', to: 'successor', type: 'type', lag: 'lag', agreed: 'agreed date', giverOwner: 'owner, giver', takerOwner: 'owner, taker', note: 'note', minutesPerDay: 'day length', week: 'week', exceptions: 'exceptions', base: 'base' },
    },
    board: {
        unreachable: 'The server does not answer; trying again …', moreProjects: '{n} more', close: 'close',
        add: 'add projects', links: 'links', linksAll: 'all', linksDriving: 'driving', linksNone: 'none', rows: 'rows', compact: 'compact', normal: 'normal', roomy: 'roomy', legend: 'legend', health: 'health', count: '{projects} · {activities} · {state}', activities: '{n} activities', oneActivity: '1 activity', empty: 'No project is open. Add some with “add projects”, or select them in the portfolio.',
        columns: { code: 'Code', name: 'Name', days: 'Days', start: 'Start', finish: 'Finish', float: 'Float', done: '% complete', actualStart: 'Actual start', actualFinish: 'Actual finish', startVariance: 'Start ± d', finishVariance: 'Finish ± d', durationVariance: 'Duration ± d', lateFinish: 'Late finish', freeFloat: 'Free', interfering: 'Interfering', why: 'Driven by' }, columnsOf: 'columns', columnSets: { plan: 'plan', progress: 'progress', baseline: 'baseline', float: 'float' }, activity: 'activity', wbs: 'WBS element', newActivity: 'New activity', newWbs: 'New WBS element', remove: 'remove {key}', showing: 'Only what moved is shown', tracing: 'Trace of {name}: what drives it and what it drives, in order', traceElsewhere: '{n} more in {keys}', openThem: 'open them too', traceHidden: '{n} in projects you cannot see', traceWhat: 'Select an activity to trace.', showAll: 'show all', saving: 'Saving …', current: 'Up to date',
        cannotIndent: 'There is no WBS element before this row to move it into.', needDuration: '“{text}” is not a duration. Type 5d, 3.5d, 12h, 2w, 90m, with ~ for an estimate.', needDate: '“{text}” is not a date. Type 2026-03-27 or 27.3.2026, with a time if you like.', readOnly: 'You have view-only access to this project.', selectTwo: 'Select two or more activities to link them in order.', understood: '= {text}', understoodEstimate: '= {text}, estimate', undone: 'Undone', redone: 'Redone', tip: 'Drag a bar to move it, its end for the duration, a dot beside it to another bar to link. What a change does to other projects is said here.',
    },
    ripple: {
        nothing: 'Nothing else moved.', moves: 'moves {n} activities in {p}', movesOne: 'moves 1 activity in {p}', projects: '{n} projects', project: '1 project', late: '{name} misses its deadline by {by}', saved: '{name} meets its deadline again', risk: '{n} handovers at risk', hidden: '{n} activities in projects you cannot see', show: 'show', undo: 'undo', redo: 'redo', later: '{name} ends {by} later', earlier: '{name} ends {by} earlier', held: 'Dragging a bar holds it: start no earlier than {date}.', showLess: 'show all',
    },
    edit: {
        name: '{name} renamed', duration: '{name}: {before} → {after}', move: '{name}: start no earlier than {date}', release: '{name}: constraint removed', link: 'linked {n} activities', linkOne: '{from} → {to} {type}', unlink: '{n} links removed', linkChanged: 'link changed', linkRemoved: 'link removed', created: '{name} added', deleted: '{name} deleted', deletedMany: '{n} rows deleted', moved: '{name} moved in the outline', field: '{name}: {field} changed', code: '{name}: codes assigned', progress: '{name}: progress', status: '{name}: status date {date}',
    },
    inspector: {
        trace: 'trace it on the board', interfering: 'Interfering', baseline: 'Baseline', variance: 'Variance', variances: 'start {start}, finish {finish}, duration {duration}', constraints: 'Constraints', constraint: 'Constraint', second: 'Second constraint', date: 'Date', done: '% complete', margin: 'To deadline', cost: 'Cost', work: 'Work', needMoney: '“{text}” is not an amount. Type 1200 or 1200.50.',
        title: 'Inspector', why: 'Driven by', whyRest: 'In progress: what sets the remaining work', whyDone: 'Finished', predecessors: 'Predecessors', successors: 'Successors', total: 'Total float', free: 'Free float', late: 'Late', early: 'Early', name: 'Name', code: 'Code', kind: 'Kind', duration: 'Duration', estimate: 'estimate', calendar: 'Calendar', projectCalendar: 'Project default ({key})',  deadline: 'Deadline', none: 'none', addLink: 'Add a predecessor', addHint: 'code or name', lag: 'Lag', type: 'Type', driving: 'driving', floatOf: 'float {d}', remove: 'remove', elsewhere: 'in a project you cannot see', lagCalendar: 'Lag measured by', lagDefault: 'Project default', empty: 'Select a row to see what there is to know about it.', critical: 'critical', nearCritical: 'near-critical', wbsNote: 'Dates of a WBS element are rolled up from what lies below it and cannot be typed over.', from: 'from', to: 'to', delete: 'Delete',
        kinds: { task: 'Task', 'start-milestone': 'Start milestone', 'finish-milestone': 'Finish milestone', hammock: 'Hammock' },
        lags: { successor: "the successor's calendar", predecessor: "the predecessor's calendar", project: "the project's calendar", elapsed: 'elapsed time' },
    },
    reason: {
        link: '{label} {name} drives it ({type})', linkLag: '{label} {name} drives it ({type}, lag {lag})', linkHidden: 'An activity in a project you cannot see drives it ({type})', 'project-start': 'The project starts {date}', 'status-date': 'Unfinished work is rescheduled after the status date, {date}', actual: 'It started on {date} (actual)', pin: 'It is pinned to {date}', resume: 'Suspended work resumes {date}', 'start-no-earlier': 'Held by constraint: start no earlier than {date}', 'finish-no-earlier': 'Held by constraint: finish no earlier than {date}', 'start-on': 'Held by constraint: start on {date}', 'finish-on': 'Held by constraint: finish on {date}', 'as-late-as-possible': 'It lies as late as possible'
    },
    wait: {
        lag: 'waits {time} (lag)', lead: 'begins {time} early (lead)', hours: 'waits for working hours', 'days-off': 'waits over days off', exception: 'waits over {name}', 'start-no-earlier': 'held until {date} by constraint', 'finish-no-earlier': 'held by constraint, to finish no earlier', 'start-on': 'held until {date} by constraint', 'finish-on': 'held by constraint, to finish on its date', 'project-start': 'held until the project starts, {date}', 'status-date': 'waits for the status date, {date}', resume: 'suspended until {date}', 'as-late-as-possible': 'moved as late as possible',
    },
    trace: {
        unseen: 'an activity you cannot see', stub: 'dates from outside', actual: 'started, actual', pin: 'pinned', 'project-start': 'the project starts', 'status-date': 'after the status date', resume: 'resumes', 'start-no-earlier': 'constraint', 'finish-no-earlier': 'constraint', 'start-on': 'constraint', 'finish-on': 'constraint', 'as-late-as-possible': 'as late as possible',
    },
    constraint: {
        none: 'none', 'start-no-earlier': 'start no earlier than', 'finish-no-earlier': 'finish no earlier than', 'start-no-later': 'start no later than', 'finish-no-later': 'finish no later than', 'start-on': 'start on', 'finish-on': 'finish on', 'start-pin': 'start pinned to', 'finish-pin': 'finish pinned to', 'as-late-as-possible': 'as late as possible',
        about: {
            'start-no-earlier': 'Holds the start back; links may push it further.', 'finish-no-earlier': 'Holds the finish back; links may push it further.', 'start-no-later': 'Takes float away; work that cannot make it shows negative float.', 'finish-no-later': 'Takes float away; work that cannot make it shows negative float.', 'start-on': 'Holds the start back and takes float away after the date.', 'finish-on': 'Holds the finish back and takes float away after the date.', 'start-pin': 'The date overrides links until work starts; links it violates are reported by health.', 'finish-pin': 'The date overrides links until work starts; links it violates are reported by health.', 'as-late-as-possible': 'Uses up the free float before it starts.',
        },
    },
    progress: {
        title: 'Progress', noStatus: 'The project has no status date yet; set one in the project’s settings to report progress.', actualStart: 'Actual start', actualFinish: 'Actual finish', percent: '% complete', measure: 'Measured by', by: { duration: 'duration', work: 'work', physical: 'physical' }, remaining: 'Remaining duration', actualWork: 'Actual work', remainingWork: 'Remaining work', suspend: 'Suspended since', resume: 'Resumes', checklist: 'Checklist', newItem: 'Step × weight', addItem: 'Add',
        needWork: '“{text}” is not an amount of work. Type 12h or 3d.', needPercent: '“{text}” is not a percentage from 0 to 100.',
        assumed: { actualStart: { planned: 'Start set to the planned {date}.', 'status-date': 'Start set to {date}, so that what is done fits before the status date.' }, actualFinish: { planned: 'Finish set to the planned {date}.', 'status-date': 'Finish set to the status date, {date}.' } },
    },
    handover: {
        title: 'Handover', open: 'open', 'at-risk': 'at risk', late: 'late', met: 'met', forecast: 'forecast {date}', margin: 'margin {d}', agreed: 'Agreed date', giverOwner: 'Owner, giver', takerOwner: 'Owner, taker', note: 'What is handed over', takerSays: 'The agreed date belongs to the taker’s project; open the activity that receives it to change it.',
    },
    paths: {
        title: 'Paths into this activity', about: 'Ranked by how far they can slip before this activity moves.', handover: 'paths into this handover', ofHandover: 'Path {n} into the handover', show: 'Show paths', one: '1 activity', many: '{n} activities', float: 'float {d}', joins: 'into {name}', only: 'Path {n} into {name}',
    },
    baseline: {
        title: 'Baselines', about: 'A frozen copy to compare with; the current one shows as pale strips and in the baseline columns.', current: 'current', compare: 'compare', makeCurrent: 'make current', notCurrent: 'No longer current', delete: 'delete', deleteNow: 'Delete it', keep: 'Keep it', forGood: 'A deleted baseline cannot be brought back.', none: 'No baseline yet.', name: 'Name of a new baseline', take: 'Take baseline', differing: '{n} activities differ, {same} are as they were', start: 'Start', finish: 'Finish', duration: 'Duration', added: 'new since then', removed: 'Removed',
    },
    settings: {
        title: 'Project settings', lead: 'Project lead', statusDate: 'Status date', start: 'Start', criticalDays: 'Critical when total float is at most (days)', nearCriticalDays: 'Near-critical when total float is at most (days)', lagCalendar: 'Lags measured by', needDays: '“{text}” is not a number of days.',
        floatMeasure: { title: 'Float measured to', 'own-end': 'the end of this project', 'portfolio-end': 'the end of all linked projects', deadline: 'its deadline' },
        criticalBy: { title: 'Critical by', threshold: 'float below a threshold', 'longest-path': 'the longest path' },
        outOfSequence: { title: 'Out-of-sequence work', waits: 'remaining work waits for its predecessors', continues: 'continues' },
        about: {
            lead: 'The person answerable for the schedule.', statusDate: 'Progress is known up to here; unfinished work, with its pins, is rescheduled after it.', start: 'Nothing that has not begun starts before it.', deadline: 'Must be met; it moves nothing, a missed one shows as negative float.', calendar: 'Measures the project and every activity that names no calendar of its own.', floatMeasure: 'What the float of its activities is counted against.', criticalBy: 'What makes an activity critical.', criticalDays: 'An activity with this much float or less is critical.', nearCriticalDays: 'With this much float or less it is near-critical; handovers with less margin are at risk.', outOfSequence: 'What the rest of started work does when a predecessor is not done.', lagCalendar: 'Whose working time the lags of links into this project count in, unless a link says otherwise.',
        },
    },
    health: {
        open: 'Check the health', title: 'Health', summary: '{bad} findings, {fine} fine, {none} not measured', share: '{n} of {of} ({share} %), at most {limit} %', index: '{value}, at least {limit}', show: 'show {n} activities', showOne: 'show 1 activity', more: 'and {n} more', fine: '{n} checks are fine', unmeasured: '{n} checks could not be measured', noBase: 'needs a status date, baseline or deadline', nothing: 'nothing to measure', adjust: 'adjust the limits', cancel: 'Cancel', save: 'Save the limits', limitsAbout: 'Limits hold for the whole enterprise: the largest share or least index that is fine, and from how many days on something counts as long or high.', limitOf: 'Limit of {name}', daysOf: 'Days of {name}', needNumber: '{name}: type a number.',
        severity: { broken: 'dates cannot be trusted', attention: 'dates may mislead', note: 'worth a look' },
        checks: {
            'missing-predecessor': { title: 'No predecessor', advice: 'Link what must come before; only the start of the network may stand alone, as a start milestone.' },
            'missing-successor': { title: 'No successor', advice: 'Link what waits for it, or a finish milestone; otherwise its delay shows nowhere.' },
            'dangling-start': { title: 'Dangling start', advice: 'Only its finish is linked, so it may start any time; add a link into its start.' },
            'dangling-finish': { title: 'Dangling finish', advice: 'Only its start drives others, so it may take any time; add a link out of its finish.' },
            leads: { title: 'Leads', advice: 'Split the predecessor or link starts with a lag instead; overlapping by a negative lag hides what really starts the work.' },
            'long-lags': { title: 'Long lags', advice: 'Make the waiting an activity with a name and a duration that somebody answers for.' },
            'link-types': { title: 'Links that are not finish to start', advice: 'Start and finish links are harder to follow; split the work so that one piece follows the other where you can.' },
            'violated-links': { title: 'Links broken by pins', advice: 'A pinned date lies before what its links ask; move the pin, or take it away and let the links decide.' },
            'redundant-links': { title: 'Redundant links', advice: 'Other links ask for the same order already; remove them to keep the network readable.' },
            'hard-constraints': { title: 'Hard constraints', advice: 'Use links and deadlines; such constraints keep delays from showing.' },
            'long-durations': { title: 'Long durations', advice: 'Split them into pieces whose progress can be reported.' },
            'unconfirmed-estimates': { title: 'Unconfirmed estimates', advice: 'Confirm the duration and take the estimate mark away.' },
            'resources-missing': { title: 'No work or cost', advice: 'Say how much work it takes or what it costs.' },
            'negative-float': { title: 'Negative float', advice: 'It cannot meet its deadline or constraint; trace what drives it, shorten that, or agree another date.' },
            'high-float': { title: 'High float', advice: 'Usually a missing successor; check what really waits for it.' },
            'invalid-dates': { title: 'Unfinished work before the status date', advice: 'Report its progress, or move the status date; unfinished work is rescheduled after it.' },
            'out-of-sequence': { title: 'Out of sequence', advice: 'It began or ended before its links allow; correct the actual dates or the links.' },
            'missed-baseline': { title: 'Missed baseline dates', advice: 'Finish was due by the status date in the current baseline; report, recover or take a new baseline.' },
            'unagreed-handovers': { title: 'Handovers without an agreed date', advice: 'Agree a date with the other side and write it on the handover.' },
            'path-continuity': { title: 'End does not follow the longest path', advice: 'The start of the longest path was delayed for a test and the end did not follow: look for pins and missing links behind it.' },
            'path-length-index': { title: 'Critical path length index', advice: 'Time to the end is long against the time that is left; shorten the longest path.' },
            'execution-index': { title: 'Baseline execution index', advice: 'Fewer tasks are finished than the baseline finishes by now.' },
        },
    },

    jobs: {
        title: 'Jobs', cancel: 'Cancel', show: 'Show result', of: '{done} of {total}', mayLeave: 'You may leave this page; the work goes on.',
        what: { preview: 'Preview', apply: 'Import' },
        states: { waiting: 'Waiting', running: 'Begun', done: 'Done', failed: 'Failed', cancelled: 'Cancelled' },
        steps: { reading: 'Reading', comparing: 'Comparing', calculating: 'Calculating', writing: 'Writing' },
    },
    remark: { title: 'Remarks', none: 'No remarks yet.', text: 'Remark', add: 'Add remark', delete: 'Delete', added: '{code}: remark added', deleted: '{code}: remark deleted' },

    legend: { title: 'Marks', task: 'task, done part in the full tone', critical: 'critical: the keel runs along the chain', near: 'near-critical', float: 'total float', finish: 'finish milestone', start: 'start milestone', wbs: 'WBS element', driving: 'driving link', link: 'other link', handover: 'handover with its ports', constraint: 'constraint', pin: 'pinned', deadline: 'deadline, margin in days', estimate: 'estimate', baseline: 'current baseline', off: 'non-working time', status: 'before the status date' },
    exchange: {
        export: 'Export', exportHint: 'Choose projects and a format. Handovers to other projects travel as stubs with their present dates.', projects: 'Projects', format: 'Format', download: 'Download', formats: { 'plan-xml': 'Reihe plan XML – everything, lossless', icalendar: 'iCalendar (.ics) – activities, dates, links after RFC 9253', xcal: 'xCal – the same as XML' }, schema: 'Schema of plan XML',
        import: 'Import', importHint: 'Plan XML, iCalendar or xCal. You see what it would do before anything is changed.', file: 'File', branch: 'Into branch', preview: 'Preview', reading: 'Reading the file …', sending: 'Sending the file, {percent} %', cancelled: 'Cancelled; nothing was changed.', would: 'Will create', apply: 'Apply', applySome: 'Apply {n} of {all} projects', take: 'Take {key}', key: 'Key', name: 'Name', activities: 'Activities', finish: 'Finish', reject: 'Discard', applied: 'Nothing was imported. | 1 project was imported. | {n} projects were imported.', openBoard: 'Open on the board', successorCarries: 'The file puts links on the successor', counts: { calendar: 'calendars', project: 'projects', wbs: 'WBS elements', activity: 'activities', link: 'links', remark: 'remarks' }, notes: 'Notes', dropped: 'The proposal was discarded; nothing was changed.',
        feeds: 'Feeds', feedsHint: 'Reporting tools read the OData feed at this address with a token, as Bearer or as the password of Basic.', tokenName: 'Token name', scope: 'For', scopes: { feed: 'feeds', read: 'reading the API', write: 'changing plans through the API' }, create: 'Create token', once: 'Copy it now; it is shown only this once.', revoke: 'Revoke', never: 'never used', used: 'last used {date}', noTokens: 'No tokens yet.', copy: 'Copy', copied: 'Copied',
    },
    keys: { title: 'Keys', move: 'move between rows', edit: 'edit the cell', leave: 'leave', below: 'new row below', inside: 'new row inside', outline: 'outdent, indent', order: 'move row up, down', link: 'link the selected rows in order', unlink: 'unlink them', inspector: 'inspector', trace: 'trace: what drives the activity and what it drives', find: 'find a row', zoom: 'zoom, fit', undo: 'undo, redo', command: 'search and commands', go: 'go to Portfolio, Board, Exchange, Library', del: 'delete the selected rows', this: 'this list', range: 'select several rows', fold: 'close, open a row' },
};
