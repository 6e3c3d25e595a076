/** Who has to do something about an outcome: nobody, the visitor, or the developer. */
export type OutcomeKind = 'good' | 'visitor' | 'trouble';

const good = new Set(['listed', 'found', 'shown', 'saved', 'moved', 'not-canonical', 'elsewhere']);
const trouble = new Set(['ambiguous', 'unavailable', 'failed']);

export function kindOf(outcome: string | null): OutcomeKind {
  if (outcome !== null && good.has(outcome)) return 'good';
  return outcome !== null && trouble.has(outcome) ? 'trouble' : 'visitor';
}
