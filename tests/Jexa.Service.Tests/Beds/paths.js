// A small application of somebody else that a script draws: each page has a path of its own (history.pushState).
// It is right, but for one fault that the document names.
const fault = document.body.dataset.fault;
const view = document.querySelector('main');
let turn = 0;
let shown = null;

const text = (value) => String(value).replace(/[&<>"']/g, (letter) => `&#${letter.charCodeAt(0)};`);

async function load(address) {
  if (fault === 'data is loaded twice') void fetch(address);
  const answer = await fetch(address);
  return answer.ok ? answer.json() : null;
}

function put(mine, title, html) {
  if (mine !== turn && fault !== 'a late answer wins') return;
  document.title = fault === 'titles are alike' ? 'Register' : title;
  view.innerHTML = html;
}

function rowOf(bridge, place) {
  let to = `/register/${bridge.id}`;
  if (fault === 'the link of one row leads to its neighbour' && place === 4) to = `/register/${bridge.id + 1}`;
  if (fault === 'every link leads to the neighbour') to = `/register/${bridge.id + 1}`;
  if (fault === 'an ID that was never filled in' && place === 3) to = '/register/undefined';
  if (fault === 'a template that was never filled in' && place === 3) to = '/register/${bridge.id}';
  const cells = `<td>${text(bridge.code)}<td>${bridge.opened}<td>${bridge.length}`;
  const row =
    fault === 'rows are clicked' || fault === 'a record has no address'
      ? `<tr data-id="${bridge.id}" style="cursor: pointer"><td>${text(bridge.name)}${cells}</tr>`
      : `<tr><td><a href="${to}">${text(bridge.name)}</a>${cells}</tr>`;
  return fault === 'a row stands twice' && place === 2 ? row + row : row;
}

async function drawList(mine, page) {
  const bridges = await load(`/api/bridges?page=${page}`);
  const next = fault === 'the next page is dead' ? '/register/none/at/all' : `/register?page=${page + 1}`;
  put(
    mine,
    'Register',
    `<h1>Register</h1><table><tbody>${bridges.map(rowOf).join('')}</tbody></table><p><a rel="next" href="${next}">Next</a>`,
  );
}

function recordOf(bridge) {
  if (bridge === null || fault === 'an empty frame')
    return '<h1></h1><dl><dt>Code<dd><dt>Opened<dd><dt>Length<dd><dt>Kept by<dd></dl>';
  let name = text(bridge.name);
  if (fault === 'escaped twice') name += ' &amp;amp; sons';
  if (fault === 'a hole in the page') name += ` ${bridge.nickname}`;
  const back = bridge.page === 1 || fault === 'the way back is to the first page' ? '/register' : `/register?page=${bridge.page}`;
  return (
    `<h1>${name}</h1><img alt="" src="/photo/${fault === 'the picture is missing' ? 'none' : bridge.id}.png">` +
    `<dl><dt>Code<dd>${text(bridge.code)}<dt>Opened<dd>${bridge.opened}<dt>Length<dd>${bridge.length} m` +
    `<dt>Kept by<dd>${bridge.keeper}</dl><p><a href="/register/${bridge.id}/edit">Edit</a> <a href="${back}">Back to the register</a>`
  );
}

async function drawRecord(mine, id) {
  if (fault === 'a second tab shows the record of the first') localStorage.setItem('last', location.pathname);
  const bridge = await load(`/api/bridges/${encodeURIComponent(id)}`);
  if (bridge !== null) {
    if (fault === 'an error in the console') setTimeout(() => bridge.owner.name, 0);
    put(mine, bridge.name, recordOf(bridge));
  } else if (fault === 'a wrong ID is blank') put(mine, 'Register', '');
  else if (fault === 'a wrong ID is an empty record') put(mine, 'Register', recordOf(null));
  else put(mine, 'Not found', `<h1>Not found</h1><p>There is no bridge ${fault === 'the ID comes back as it is' ? id : text(id)}.`);
}

async function drawForm(mine, id) {
  const bridge = await load(`/api/bridges/${encodeURIComponent(fault === "the edit form is another's" ? Number(id) + 1 : id)}`);
  const value = (name) => (fault === 'the edit form is empty' ? '' : text(bridge[name]));
  put(
    mine,
    'Edit',
    `<h1>Edit</h1><form method="post">${['name', 'code', 'opened', 'length']
      .map((name) => `<label>${name}<input name="${name}" value="${value(name)}"></label>`)
      .join('')}<button>Save</button></form>`,
  );
}

function draw(path) {
  const mine = ++turn;
  const record = /^\/register\/([^/]+)(\/edit)?$/.exec(path);
  const kind = record === null ? 'list' : 'record';
  if (fault === 'the record stays when the ID changes' && shown === 'record' && kind === 'record') return;
  if (fault === 'back leaves the record' && shown === 'record' && kind === 'list') return;
  shown = kind;
  view.innerHTML = fault === 'blank while loading' ? '' : '<p role="status">Loading the register …</p>';
  if (record === null) void drawList(mine, Number(new URLSearchParams(location.search).get('page') ?? 1));
  else if (record[2]) void drawForm(mine, decodeURIComponent(record[1]));
  else void drawRecord(mine, decodeURIComponent(record[1]));
}

document.addEventListener('click', (event) => {
  const row = event.target.closest('tr[data-id]');
  const link = event.target.closest('a[href^="/register"]');
  if (row === null && link === null) return;
  event.preventDefault();
  const to = row === null ? link.getAttribute('href') : `/register/${row.dataset.id}`;
  if (fault !== 'a record has no address') history.pushState(null, '', to);
  draw(to.split('?')[0]);
});
window.addEventListener('popstate', () => draw(location.pathname));
const last = localStorage.getItem('last');
draw(last !== null && location.pathname !== '/register' ? last : location.pathname);
