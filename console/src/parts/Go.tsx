import type { ComponentPropsWithoutRef, MouseEvent } from 'react';
import { go, type Screen, writeScreen } from '../address';

type Props = Omit<ComponentPropsWithoutRef<'a'>, 'href' | 'onClick'> & { to: Screen };

/** A link to another screen: a real address, followed without loading the console anew. */
export function Go({ to, ...rest }: Props) {
  const follow = (click: MouseEvent) => {
    if (click.button !== 0 || click.metaKey || click.ctrlKey || click.shiftKey || click.altKey) return;
    click.preventDefault();
    go(to);
  };
  return <a href={writeScreen(to)} onClick={follow} {...rest} />;
}
