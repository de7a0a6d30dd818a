// Two charts from what the feed gives. The token stays in the field and is forgotten with the page.
const said = document.getElementById('said');
const say = (text, isWrong = false) => {
    said.textContent = text;
    said.toggleAttribute('role', false);
    if (isWrong) said.setAttribute('role', 'alert');
};

function draw(id, option) {
    const chart = echarts.getInstanceByDom(document.getElementById(id)) ?? echarts.init(document.getElementById(id));
    chart.setOption({ animation: false, grid: { left: 8, right: 24, top: 28, bottom: 8, containLabel: true }, tooltip: { trigger: 'axis' },
        xAxis: { type: 'value' }, ...option }, true);
}

document.getElementById('sign-in').addEventListener('submit', async (event) => {
    event.preventDefault();
    say('Reading …');
    const answer = await fetch('/report', { method: 'POST', body: document.getElementById('token').value });
    if (!answer.ok) return say(await answer.text(), true);
    const { projects, work } = await answer.json();
    document.querySelector('.charts').hidden = false;
    const margins = projects.filter((p) => p.DeadlineMarginHours !== null).reverse();
    draw('margins', { yAxis: { type: 'category', data: margins.map((p) => p.Key) }, series: [{ type: 'bar', data: margins.map((p) => ({
        value: p.DeadlineMarginHours, itemStyle: { color: p.DeadlineMarginHours < 0 ? '#b4432f' : '#4a7fa5' } })) }] });
    const hours = (key, critical) => work.find((w) => w.ProjectKey === key && w.Critical === critical)?.Hours ?? 0;
    const keys = [...new Set(work.map((w) => w.ProjectKey))].sort((a, b) => hours(a, true) + hours(a, false) - hours(b, true) - hours(b, false));
    draw('work', { legend: { top: 0 }, yAxis: { type: 'category', data: keys }, series: [true, false].map((critical) => ({ type: 'bar', stack: 'all',
        name: critical ? 'critical' : 'other', itemStyle: { color: critical ? '#b4432f' : '#9fb6c4' },
        data: keys.map((k) => hours(k, critical)) })) });
    const open = work.reduce((sum, w) => sum + w.Number, 0);
    say(`${projects.length} projects with a deadline, ${open} open activities.`);
    return undefined;
});
