import { kindOf } from './outcome';

/** An outcome's word, marked by shape and colour. A visitor who left before there was one has none. */
export function OutcomeMark({ outcome }: { outcome: string | null }) {
  return (
    <span className="outcome" data-kind={kindOf(outcome)}>
      {outcome ?? 'left'}
    </span>
  );
}
