import { expect, it } from 'vitest';
import { nameOf, summaryOf, textOf } from './names';

it('cuts what is only looked at, and never what is typed over', () => {
  const many = Array.from({ length: 40 }, (_, number) => `word${number}`);
  expect(summaryOf(many).length).toBe(91);
  expect(textOf(many)).toBe(many.join(', '));
  expect(summaryOf({ to: 'bridge', with: { id: 'bridge_id' }, show: ['a', 'b'] })).toBe(
    'to: bridge, with: { id: bridge_id }, show: [a, b]',
  );
  expect(nameOf('max_length')).toBe('Max length');
});
