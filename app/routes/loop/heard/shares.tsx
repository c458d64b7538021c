/** Rows of a word, a bar and a percentage. */
export function Shares({ rows, label }: { rows: readonly { readonly name: string; readonly share: number }[]; label: string }) {
  return (
    <dl className="grid grid-cols-[7.5rem_1fr_3rem] items-center gap-x-2 gap-y-1" aria-label={label}>
      {rows.map(({ name, share }) => (
        <div key={name} className="contents">
          <dt className="truncate">{name}</dt>
          <dd className="h-2 bg-base-300" aria-hidden="true">
            <span className="block h-full bg-(--wave-strong)" style={{ width: `${Math.max(1, share * 100)}%` }} />
          </dd>
          <dd className="text-right whitespace-nowrap">{share < 0.01 ? '<1' : Math.round(share * 100)} %</dd>
        </div>
      ))}
    </dl>
  );
}
