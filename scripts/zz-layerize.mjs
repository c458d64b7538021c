import { openBrowser } from './lib/browser.mjs';
const address = 'http://127.0.0.1:3000';
const browser = await openBrowser(), page = await browser.newPage({ viewport: { width: 1280, height: 800 } });
await page.goto(`${address}/sign-in`);
await page.getByRole('button', { name: 'Ines Marlowe' }).click();
await page.waitForSelector('html[data-ready=yes]');
await page.getByLabel('Project in the room').selectOption({ label: 'Engine Room' });
await page.getByRole('region', { name: 'Project', exact: true }).getByRole('link', { name: 'Engine Room' }).waitFor();
await page.goto(`${address}/?kind=loop`);
await page.waitForSelector('html[data-ready=yes]');
await page.evaluate(() => { window.garnetfinch.engine.setSettings({ startOn: 'bar' }); return window.garnetfinch.engine.play(); });
await page.locator('[data-loop-list]').focus();
for (let i = 0; i < 6; i++) { await page.keyboard.press('ArrowDown'); await page.waitForTimeout(200); }
const client = await page.context().newCDPSession(page);
async function measure(label) {
  const events = [];
  const on = ({ value }) => events.push(...value);
  client.on('Tracing.dataCollected', on);
  await client.send('Tracing.start', { transferMode: 'ReportEvents', traceConfig: { includedCategories: ['devtools.timeline', 'blink', 'cc'] } });
  await page.waitForTimeout(3000);
  const end = new Promise((r) => client.once('Tracing.tracingComplete', r)); await client.send('Tracing.end'); await end;
  client.off('Tracing.dataCollected', on);
  const sum = (n) => { const l = events.filter((e) => e.name === n && e.ph === 'X'); return `${n} ${l.length} x ${(l.reduce((s, e) => s + e.dur, 0) / 1e3 / Math.max(1, l.length)).toFixed(2)} ms`; };
  console.log(label, ['ProxyMain::BeginMainFrame', 'PaintArtifactCompositor::Update', 'Paint', 'UpdateLayoutTree', 'Commit', 'FireAnimationFrame'].map(sum).join(' | '));
}
await measure('all');
const hide = async (css, label) => { const h = await page.addStyleTag({ content: css }); await measure(label); await h.evaluate((n) => n.remove()); };
await hide('canvas{display:none!important}', 'no canvas');
await hide('.border-primary.inset-0{display:none!important}', 'no playheads');
await hide('.origin-bottom{display:none!important}', 'no meter');
await hide('.origin-bottom,.border-primary.inset-0{display:none!important}', 'neither');
await hide('canvas,.origin-bottom,.border-primary.inset-0{display:none!important}', 'none of the three');
await hide('[data-loop-list]{display:none!important}', 'no list');
await hide('.will-change-transform{will-change:auto!important}', 'no will-change');
await browser.close();
