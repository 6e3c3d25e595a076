// How fast the console's working copy answers: node bench/workshop.mjs STATE_FOLDER [TURNS]
// Ask it of a service that runs: jexa serve demo/bridges.yaml --state STATE_FOLDER. Drops that service's working copy.
// Prints medians in milliseconds, and each as a multiple of looking at the working copy without a change, in the same run.
import { readFileSync } from 'node:fs';
import { join } from 'node:path';

const [state, turns = '15'] = process.argv.slice(2);
const token = readFileSync(join(state, 'token'), 'utf8').trim();
const { ConsoleUrl: door, PagesUrl: pages } = JSON.parse(readFileSync(join(state, 'service.json'), 'utf8'));

async function ask(method, path, body) {
  const answer = await fetch(`${door}api/working-copy${path}`, {
    method,
    headers: { Authorization: `Bearer ${token}`, 'Content-Type': 'application/json' },
    ...(body === undefined ? {} : { body: JSON.stringify(body) }),
  });
  if (!answer.ok) throw new Error(`${method} ${path} answers ${answer.status}: ${await answer.text()}`);
  return answer.json();
}

async function median(run) {
  const took = [];
  for (let turn = -2; turn < Number(turns); turn++) {
    const began = performance.now();
    await run(turn + 2);
    if (turn >= 0) took.push(performance.now() - began);
  }
  return took.sort((one, other) => one - other)[Math.floor(took.length / 2)];
}

let copy = await ask('POST', '/discard', {});
const list = copy.pages.find(({ page }) => page.kind === 'list' && page.address !== null).page.name;
const change = (title) => ask('POST', '/changes', { changes: [{ change: 'set', place: `/pages/${list}/title`, value: title }] });
const address = new URL(pages).origin + copy.pages.find(({ page }) => page.name === list).page.address;
const { text } = copy;
const figures = {
  'looking at the working copy': await median(() => ask('GET', '')),
  'a change: splices, site, findings': await median((turn) => change(`A ${turn}`)),
  'a change and its page in the preview': await median(async (turn) => {
    await change(`B ${turn}`);
    await (await fetch(address)).text();
  }),
  'typing: the whole text': await median(async (turn) => {
    copy = await ask('GET', '');
    await ask('PUT', '/text', { version: copy.version, text: `${text}# ${turn}\n` });
  }),
  'completion': await median(() => ask('POST', '/completions', { text, offset: text.length })),
};
await ask('POST', '/discard', {});
const [bare] = Object.values(figures);
console.log(`${copy.pages.length} pages, ${text.split('\n').length} lines`);
for (const [what, took] of Object.entries(figures))
  console.log(`${took.toFixed(1).padStart(8)} ms  ${(took / bare).toFixed(1).padStart(6)}  ${what}`);
