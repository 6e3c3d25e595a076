// A small application of somebody else, made of components: each page has an address in the fragment (#/bridges/7).
// It is right, but for one fault that the document names.
import { useEffect, useState } from 'react';
import { createRoot } from 'react-dom/client';

const fault = document.body.dataset.fault;

function useRoute() {
  const [route, setRoute] = useState(location.hash.slice(1) || '/bridges');
  useEffect(() => {
    const follow = () => setRoute(location.hash.slice(1) || '/bridges');
    window.addEventListener('hashchange', follow);
    return () => window.removeEventListener('hashchange', follow);
  }, []);
  return route;
}

/** What an address of the API holds: undefined while it is loaded, null if there is nothing. */
function useData(address) {
  const [held, setHeld] = useState({ address: null, data: undefined });
  useEffect(
    () => {
      let isWanted = true;
      const take = async () => {
        const answer = await fetch(address);
        const data = answer.ok ? await answer.json() : null;
        if (isWanted || fault === 'a late answer wins') setHeld({ address, data });
      };
      void take();
      if (fault === 'data is loaded twice') void take();
      return () => {
        isWanted = false;
      };
    },
    fault === 'the record stays when the ID changes' ? [] : [address],
  );
  const isOld = held.address !== address;
  if (fault === 'the record stays when the ID changes' || fault === 'a late answer wins') return held.data;
  return isOld ? undefined : held.data;
}

const Waiting = () => (fault === 'blank while loading' ? null : <p role="status">Loading the bridges …</p>);

function useTitle(title) {
  useEffect(() => {
    document.title = fault === 'titles are alike' ? 'Bridges' : title;
  }, [title]);
}

function addressOf(bridge, place) {
  if (fault === 'the link of one row leads to its neighbour' && place === 4) return `#/bridges/${bridge.id + 1}`;
  if (fault === 'every link leads to the neighbour') return `#/bridges/${bridge.id + 1}`;
  if (fault === 'an ID that was never filled in' && place === 3) return `#/bridges/${bridge.key}`;
  if (fault === 'a template that was never filled in' && place === 3) return '#/bridges/{{id}}';
  return `#/bridges/${bridge.id}`;
}

function Row({ bridge, place }) {
  const facts = (
    <>
      <span>{bridge.code}</span>
      <span>{bridge.opened}</span>
      <span>{bridge.length}</span>
    </>
  );
  return fault === 'rows are clicked' ? (
    <li
      role="link"
      onClick={() => {
        location.hash = `/bridges/${bridge.id}`;
      }}
    >
      <b>{bridge.name}</b>
      {facts}
    </li>
  ) : (
    <li>
      <a href={addressOf(bridge, place)}>{bridge.name}</a>
      {facts}
    </li>
  );
}

function List({ page }) {
  const bridges = useData(`/api/bridges?page=${page}`);
  useTitle('Bridges');
  if (!bridges) return <Waiting />;
  const rows = fault === 'a row stands twice' ? [...bridges.slice(0, 3), ...bridges.slice(2)] : bridges;
  return (
    <>
      <h1>Bridges</h1>
      <ul>
        {rows.map((bridge, place) => (
          <Row key={place} bridge={bridge} place={place} />
        ))}
      </ul>
      <a rel="next" href={fault === 'the next page is the same' ? '#/bridges?page=1&again=1' : `#/bridges?page=${page + 1}`}>
        Next
      </a>
    </>
  );
}

function Empty() {
  return (
    <>
      <h1> </h1>
      <dl>
        <dt>Code</dt>
        <dd />
        <dt>Opened</dt>
        <dd />
        <dt>Length</dt>
        <dd />
        <dt>Kept by</dt>
        <dd />
      </dl>
    </>
  );
}

function Record({ id }) {
  const bridge = useData(`/api/bridges/${encodeURIComponent(id)}`);
  useTitle(bridge ? bridge.name : 'Bridge');
  useEffect(() => {
    if (bridge && fault === 'an error in the console') console.error('Each child in a list needs a key.');
  }, [bridge]);
  if (bridge === undefined) return <Waiting />;
  if (bridge === null && fault === 'a wrong ID is blank') return null;
  if (fault === 'an empty frame' || (bridge === null && fault === 'a wrong ID is an empty record')) return <Empty />;
  if (bridge === null)
    return fault === 'the ID comes back as it is' ? (
      <p dangerouslySetInnerHTML={{ __html: `There is no such bridge: ${id}` }} />
    ) : (
      <p>There is no such bridge: {id}</p>
    );
  return (
    <>
      <h1>
        {bridge.name}
        {fault === 'escaped twice' && ' &amp; sons'}
        {fault === 'a hole in the page' && ` ${bridge.nickname}`}
      </h1>
      <img alt="" src={fault === 'the picture is missing' ? '/photo/none.png' : `/photo/${bridge.id}.png`} />
      <dl>
        <dt>Code</dt>
        <dd>{bridge.code}</dd>
        <dt>Opened</dt>
        <dd>{bridge.opened}</dd>
        <dt>Length</dt>
        <dd>{bridge.length} m</dd>
        <dt>Kept by</dt>
        <dd>{bridge.keeper}</dd>
      </dl>
      <a href={`#/bridges/${id}/edit`}>Edit</a>{' '}
      <a
        href={
          bridge.page === 1 || fault === 'the way back is to the first page' ? '#/bridges' : `#/bridges?page=${bridge.page}`
        }
      >
        Back to the bridges
      </a>
    </>
  );
}

function Form({ id }) {
  const bridge = useData(`/api/bridges/${fault === "the edit form is another's" ? Number(id) + 1 : encodeURIComponent(id)}`);
  useTitle('Edit');
  if (!bridge) return <Waiting />;
  return (
    <form>
      {['name', 'code', 'opened', 'length'].map((name) => (
        <label key={name}>
          {name} <input name={name} defaultValue={fault === 'the edit form is empty' ? '' : bridge[name]} />
        </label>
      ))}
      <button type="button">Save</button>
    </form>
  );
}

function App() {
  const route = useRoute();
  const [last, setLast] = useState(route);
  const [path, query] = route.split('?');
  const record = /^\/bridges\/([^/]+)(\/edit)?$/.exec(path);
  const isStuck = fault === 'back leaves the record' && record === null && last.startsWith('/bridges/');
  useEffect(() => {
    if (!isStuck) setLast(route);
  }, [route, isStuck]);
  const shown = isStuck ? /^\/bridges\/([^/]+)(\/edit)?$/.exec(last.split('?')[0]) : record;
  if (shown === null) return <List page={Number(new URLSearchParams(query).get('page') ?? 1)} />;
  const id = decodeURIComponent(shown[1]);
  return shown[2] ? <Form id={id} /> : <Record id={id} />;
}

createRoot(document.querySelector('main')).render(<App />);
