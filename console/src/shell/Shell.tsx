import { useQuery } from '@tanstack/react-query';
import { useEffect, useRef } from 'react';
import { noPage, type Screen, useScreen } from '../address';
import { ServiceError } from '../api/client';
import { siteQuery } from '../api/queries';
import type { SiteInfo } from '../api/schema';
import { ChangesScreen } from '../changes/ChangesScreen';
import { FindingsScreen } from '../findings/FindingsScreen';
import { MakeScreen } from '../make/MakeScreen';
import { MapScreen } from '../map/MapScreen';
import { PagesScreen } from '../pages/PagesScreen';
import { Go } from '../parts/Go';
import { Empty, Loading } from '../parts/States';
import { counted } from '../parts/words';
import { ProofScreen } from '../proof/ProofScreen';
import { ReportScreen } from '../proof/ReportScreen';
import { SaveScreen } from '../save/SaveScreen';
import { QueryScreen } from '../sources/QueryScreen';
import { SourcesScreen } from '../sources/SourcesScreen';
import { TableScreen } from '../sources/TableScreen';
import { StartScreen } from '../start/StartScreen';
import { TextScreen } from '../text/TextScreen';
import { CasesScreen } from '../try/CasesScreen';
import { TryScreen } from '../try/TryScreen';
import { VisitScreen } from '../try/VisitScreen';
import { WatchScreen } from '../watch/WatchScreen';
import { stateOf } from './state';
import { WorkBar } from './WorkBar';

const titles: Record<Screen['name'], string> = {
  pages: 'Pages',
  try: 'Try',
  visit: 'Visit',
  sources: 'Sources',
  table: 'Table',
  query: 'Query',
  findings: 'Findings',
  make: 'Make',
  text: 'Text',
  save: 'Compare and save',
  start: 'Start',
  watch: 'Watch',
  changes: 'Changes',
  map: 'Map',
  cases: 'IDs',
  proofs: 'Proof',
  report: 'Report',
  nowhere: 'No such screen',
};

/** What stands around every screen: where one is, where one can go, and how the service is. */
export function Shell() {
  const screen = useScreen();
  const site = useQuery(siteQuery);
  const isFresh = site.data?.fresh === true;
  const main = useRef<HTMLElement>(null);
  const began = useRef(true);

  useEffect(() => {
    document.title = `${isFresh ? titles.start : titles[screen.name]} · Jexa console`;
    // Another screen is read from its beginning, also by those who hear it; the first one is where the browser puts it.
    if (!began.current) main.current?.focus({ preventScroll: true });
    began.current = false;
  }, [screen.name, isFresh]);

  const trouble = site.error instanceof ServiceError ? site.error.trouble : null;
  if (trouble === 'signed-out') return <SignedOut />;
  return (
    <>
      <a className="skip" href="#main">
        Skip to the content
      </a>
      <header className="top">
        <span className="brand">
          <img src="/icon.svg" alt="" width="22" height="22" />
          Jexa console
        </span>
        <nav aria-label="Screens" hidden={site.data?.fresh === true}>
          <Go
            to={{ name: 'pages', find: '' }}
            aria-current={screen.name === 'pages' || screen.name === 'map' ? 'page' : undefined}
          >
            Pages
          </Go>
          <Go to={noPage} aria-current={screen.name === 'make' || screen.name === 'save' ? 'page' : undefined}>
            Make
          </Go>
          <Go to={{ name: 'text', line: null }} aria-current={screen.name === 'text' ? 'page' : undefined}>
            Text
          </Go>
          <Go
            to={{ name: 'try', address: null, outcome: null }}
            aria-current={['try', 'visit', 'cases'].includes(screen.name) ? 'page' : undefined}
          >
            Try
          </Go>
          <Go to={{ name: 'watch' }} aria-current={screen.name === 'watch' ? 'page' : undefined}>
            Watch
          </Go>
          <Go to={{ name: 'sources' }} aria-current={['sources', 'table', 'query'].includes(screen.name) ? 'page' : undefined}>
            Sources
          </Go>
          <Go to={{ name: 'changes', record: '', before: null }} aria-current={screen.name === 'changes' ? 'page' : undefined}>
            Changes
          </Go>
          <Go to={{ name: 'proofs' }} aria-current={screen.name === 'proofs' || screen.name === 'report' ? 'page' : undefined}>
            Proof
          </Go>
          <Go to={{ name: 'findings', line: null }} aria-current={screen.name === 'findings' ? 'page' : undefined}>
            Findings{site.data && site.data.findings > 0 ? ` (${site.data.findings})` : ''}
          </Go>
        </nav>
        {site.data && (
          <span className="app">
            {site.data.app} · <a href={site.data.pagesUrl}>{site.data.pagesUrl}</a>
          </span>
        )}
      </header>
      <div role="status">
        {trouble === 'gone' && (
          <div className="banner" data-severity="error">
            <strong>The service does not answer.</strong> What is shown may be old; it is asked again every two seconds.
          </div>
        )}
        {site.data?.behind && trouble === null && (
          <div className="banner" data-severity="error">
            <strong>{site.data.file} makes no site as it is now.</strong> The last good one goes on serving.{' '}
            <Go to={{ name: 'findings', line: null }}>See {counted(site.data.findings, 'finding')}</Go>
          </div>
        )}
        {site.data && site.data.waiting > 0 && trouble === null && (
          <div className="banner" data-severity="error">
            <strong>{counted(site.data.waiting, 'page waits', 'pages wait')} for a source that is away.</strong>{' '}
            <Go to={{ name: 'sources' }}>See the sources</Go>
          </div>
        )}
      </div>
      {site.data && <WorkBar site={site.data} />}
      <main id="main" ref={main} tabIndex={-1}>
        {site.data ? (
          <ScreenOf screen={screen} site={site.data} />
        ) : trouble === 'gone' ? (
          <Gone />
        ) : (
          <Loading what="the console" />
        )}
      </main>
    </>
  );
}

function ScreenOf({ screen, site }: { screen: Screen; site: SiteInfo }) {
  const state = stateOf(site);
  // Without an app file everything begins at the start, except what is done with the working copy.
  if (site.fresh && !['make', 'text', 'save'].includes(screen.name)) return <StartScreen site={site} />;
  switch (screen.name) {
    case 'pages':
      return <PagesScreen state={state} screen={screen} />;
    case 'try':
      return (
        <TryScreen state={state} site={site} address={screen.address} outcome={screen.outcome} beside={screen.beside ?? null} />
      );
    case 'visit':
      return <VisitScreen site={site} number={screen.number} />;
    case 'sources':
      return <SourcesScreen />;
    case 'make':
      return <MakeScreen site={site} screen={screen} />;
    case 'text':
      return <TextScreen line={screen.line} />;
    case 'save':
      return <SaveScreen site={site} version={screen.version ?? null} />;
    case 'map':
      return <MapScreen site={site} screen={screen} />;
    case 'table':
      return <TableScreen state={state} source={screen.source} table={screen.table} />;
    case 'query':
      return <QueryScreen key={`${screen.source} ${screen.query}`} screen={screen} />;
    case 'changes':
      return <ChangesScreen record={screen.record} before={screen.before} />;
    case 'watch':
      return <WatchScreen />;
    case 'cases':
      return <CasesScreen state={state} site={site} on={screen.on} />;
    case 'proofs':
      return <ProofScreen />;
    case 'report':
      return <ReportScreen key={screen.number} number={screen.number} />;
    case 'start':
      return (
        <Empty level="h1" title="There is an app already">
          <p>
            <span className="mono">{site.file}</span> is being served. <Go to={noPage}>Make further pages</Go> in it.
          </p>
        </Empty>
      );
    case 'findings':
      return <FindingsScreen state={state} site={site} line={screen.line} />;
    case 'nowhere':
      return (
        <Empty level="h1" title="There is no such screen">
          <p>
            The console has no screen at <span className="mono">{screen.path}</span>. Go to the{' '}
            <Go to={{ name: 'pages', find: '' }}>pages</Go> instead.
          </p>
        </Empty>
      );
  }
}

function Gone() {
  return (
    <Empty level="h1" title="The service does not answer">
      <p>Start it again, on the same ports and with the same state folder: this screen then goes on by itself.</p>
    </Empty>
  );
}

function SignedOut() {
  return (
    <main>
      <div className="sheet says">
        <h1>This tab is not signed in</h1>
        <p>The console opens with the URL that Jexa prints when it starts; that URL works once. For another one, run</p>
        <p className="mono">./jexa console</p>
        <p>with the service’s --port or --state if they are not the usual ones, and open what it prints.</p>
      </div>
    </main>
  );
}
