import { Button, NativeSelect, TextInput } from '@mantine/core';
import { useState } from 'react';
import { go, type MakeScreenAddress } from '../address';
import type { NamedChangeRequest, WorkingPageInfo } from '../api/schema';
import type { Deed } from './work';

type Props = {
  screen: MakeScreenAddress;
  page: WorkingPageInfo;
  /** Whether the page has an entry of its own, and not one by `forms` of another page. */
  isOwn: boolean;
  act: (deed: Deed, then?: () => void) => void;
};

type Action = 'rename-page' | 'move-page' | 'rename-parameter' | 'remove-page';

const words: Record<Action, string> = {
  'rename-page': 'Rename',
  'move-page': 'Move to another path',
  'rename-parameter': 'Rename a parameter',
  'remove-page': 'Remove',
};

/** What is done to a page as a whole. All that names it is changed with it. */
export function PageActions({ screen, page, isOwn, act }: Props) {
  const [action, setAction] = useState<Action | null>(null);
  if (!isOwn) return <p className="quiet">Made by “forms” of another page: change it there, or write it out in the text.</p>;
  const { name, parameters } = page.page;
  const actions = (Object.keys(words) as Action[]).filter((each) => each !== 'rename-parameter' || parameters.length > 0);
  return (
    <div className="actions">
      <div className="filters">
        {actions.map((each) => (
          <button
            key={each}
            type="button"
            aria-expanded={action === each}
            onClick={() => setAction(action === each ? null : each)}
          >
            {words[each]}
          </button>
        ))}
      </div>
      {action !== null && (
        <ActionForm
          key={action}
          action={action}
          page={page}
          done={(change, renamed) =>
            act({ do: 'change', changes: [change] }, () => {
              setAction(null);
              if (action === 'remove-page') go({ ...screen, about: '', part: '', at: null });
              else if (action === 'rename-page') go({ ...screen, about: renamed });
              else go({ ...screen, at: null });
            })
          }
          name={name}
        />
      )}
    </div>
  );
}

type FormProps = {
  action: Action;
  name: string;
  page: WorkingPageInfo;
  done: (change: NamedChangeRequest, to: string) => void;
};

function ActionForm({ action, name, page, done }: FormProps) {
  const [to, setTo] = useState(action === 'move-page' ? page.page.path : action === 'rename-page' ? name : '');
  const [parameter, setParameter] = useState(page.page.parameters[0]?.name ?? '');
  const request = (): NamedChangeRequest => {
    switch (action) {
      case 'rename-page':
        return { change: action, page: name, name: to };
      case 'move-page':
        return { change: action, page: name, path: to };
      case 'rename-parameter':
        return { change: action, page: name, parameter, name: to };
      case 'remove-page':
        return { change: action, page: name };
    }
  };
  return (
    <form
      className="line"
      aria-label={`${words[action]}: ${name}`}
      onSubmit={(event) => {
        event.preventDefault();
        done(request(), to);
      }}
    >
      {action === 'rename-parameter' && (
        <NativeSelect
          label="Parameter"
          value={parameter}
          data={page.page.parameters.map((each) => each.name)}
          onChange={(event) => setParameter(event.currentTarget.value)}
        />
      )}
      {action === 'remove-page' ? (
        <p>What still leads to {name} will be a finding.</p>
      ) : (
        <TextInput
          label={action === 'move-page' ? 'New path' : 'New name'}
          description={action === 'move-page' ? 'Former addresses redirect if the parameters are the same.' : undefined}
          value={to}
          spellCheck={false}
          autoComplete="off"
          onChange={(event) => setTo(event.currentTarget.value)}
        />
      )}
      <Button type="submit" size="xs">
        {words[action]}
      </Button>
    </form>
  );
}
