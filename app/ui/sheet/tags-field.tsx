import { useState } from 'react';

const mostOffered = 6;

const read = (text: string): string[] => [
  ...new Set(
    text
      .split(',')
      .map((tag) => tag.trim())
      .filter(Boolean),
  ),
];

/** Tags as one types them, with commas; and some that would suit, to be taken by a click. */
export function TagsField({
  tags,
  offered,
  onChange,
}: {
  tags: readonly string[];
  offered: readonly string[];
  onChange: (tags: readonly string[]) => void;
}) {
  const [text, setText] = useState(tags.join(', ')),
    there = new Set(read(text).map((tag) => tag.toLowerCase())),
    left = offered.filter((tag) => !there.has(tag.toLowerCase())).slice(0, mostOffered);
  const write = (next: string) => {
    setText(next);
    onChange(read(next));
  };
  return (
    <div className="flex min-w-0 flex-col gap-0.5">
      <label className="flex min-w-0 flex-col gap-0.5">
        <span className="caps">Tags, with commas</span>
        <input className="input input-sm w-full" value={text} onChange={({ target }) => write(target.value)} />
      </label>
      {left.length > 0 && (
        <span className="flex flex-wrap gap-1" role="group" aria-label="Tags that would suit">
          {left.map((tag) => (
            <button key={tag} type="button" className="btn btn-xs font-normal" onClick={() => write([...read(text), tag].join(', '))}>
              + {tag}
            </button>
          ))}
        </span>
      )}
    </div>
  );
}
