import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { type ChangeAsked, noChange } from '../address';
import { appFileQuery, schemaQuery } from '../api/queries';
import type { ChangedFileInfo } from '../api/schema';
import { Go } from '../parts/Go';
import { Loaded } from '../parts/Loaded';
import { Empty } from '../parts/States';
import { requestOf, words } from './asked';
import { ChangeForm } from './ChangeForm';
import { keysOf } from './keys';
import { Trial } from './Trial';

/** Changes the app file by name: what would become of it is shown beside the form, and saved when asked. */
export function ChangeScreen({ state, screen }: { state: string; screen: ChangeAsked }) {
  const file = useQuery(appFileQuery(state));
  const [saved, setSaved] = useState<{ of: string; file: ChangedFileInfo } | null>(null);
  const schema = useQuery(schemaQuery);
  const keys = schema.data ? keysOf(schema.data) : [];
  const request = requestOf(screen, keys.find((key) => key.name === screen.key)?.shape);
  const asked = JSON.stringify(request);
  return (
    <>
      <div className="head">
        <div>
          <h1>Change the app file</h1>
          <p>Only what a change names is touched: comments, order and everything else stay as they are.</p>
        </div>
      </div>
      <div className="change">
        <ChangeForm state={state} screen={screen} keys={keys} />
        <section aria-label="What would change" aria-live="polite">
          {saved !== null && saved.of === asked ? (
            <Saved asked={screen} file={saved.file} />
          ) : request === null ? (
            <Empty title={words[screen.change]}>
              <p>{hints[screen.change]}</p>
            </Empty>
          ) : (
            <Loaded query={file} what="the app file">
              {({ version }) =>
                version === null ? (
                  <Empty title="The app file cannot be read">
                    <p>Put it back: this screen then goes on by itself.</p>
                  </Empty>
                ) : (
                  <Trial key={asked} version={version} request={request} saved={(file) => setSaved({ of: asked, file })} />
                )
              }
            </Loaded>
          )}
        </section>
      </div>
    </>
  );
}

const hints = {
  'add-pages': 'Choose a record: it gets a list, a detail page and the pages that change it, linked with each other.',
  set: 'Choose a page and a key, and say its value. The lines that differ are shown before anything is saved.',
  reset: 'Choose a page and a key: it is as if the file had never said it, and Jexa decides.',
  'rename-page':
    'Choose a page and its new name. Links, menus, texts and answers that name it are changed with it; its path stays.',
  'move-page': 'Choose a page and its new path. Addresses of its former path redirect, if it has the same parameters.',
  'rename-parameter':
    'Choose a page, a parameter and its new name: conditions, titles and links that name it are changed with it.',
  'remove-page': 'Choose a page. What still leads to it is shown before anything is saved.',
};

function Saved({ asked, file }: { asked: ChangeAsked; file: ChangedFileInfo }) {
  const name = asked.change === 'rename-page' ? asked.to : asked.about;
  return (
    <div className="sheet says" role="status">
      <h2>Saved</h2>
      <p>
        {file.file} has the change, and {file.serves ? 'the service takes it up now.' : 'the last good version is still served.'}
      </p>
      <p>
        <Go to={{ name: 'pages', find: asked.change === 'remove-page' ? '' : name }}>See the pages</Go> ·{' '}
        <Go to={{ ...noChange, change: asked.change }}>Another change</Go>
      </p>
    </div>
  );
}
