import table from './outcomes.json';

/** Who has to do something about an outcome: nobody, the visitor, or the developer. */
export type OutcomeKind = 'good' | 'visitor' | 'trouble';

export function kindOf(outcome: string | null): OutcomeKind {
  if (outcome === null) return 'visitor';
  if (table.good.includes(outcome)) return 'good';
  return table.developer.includes(outcome) ? 'trouble' : 'visitor';
}
