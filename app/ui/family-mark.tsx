import { families, type Family } from '~core/theory/instruments';

/** An instrument family by colour and letter. */
export function FamilyMark({ family }: { family: Family | null }) {
  const known = family ? families[family] : null;
  return (
    <span
      className="inline-flex size-5 shrink-0 items-center justify-center rounded-sm border text-[0.79rem] font-semibold"
      style={{ color: family ? `var(--family-${family})` : undefined, borderColor: 'currentColor' }}
      title={known?.label ?? 'Instrument unknown'}
    >
      <span aria-hidden="true">{known?.letter ?? '?'}</span>
      <span className="sr-only">{known?.label ?? 'Instrument unknown'}</span>
    </span>
  );
}
