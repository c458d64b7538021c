import { useState } from 'react';
import { X } from 'lucide-react';

export function Tags({
  tags,
  onAdd,
  onRemove,
}: {
  tags: readonly string[];
  onAdd: (name: string) => void;
  onRemove: (name: string) => void;
}) {
  const [name, setName] = useState('');
  return (
    <section>
      <h2>Tags</h2>
      <div className="mt-1 flex flex-wrap gap-1.5">
        {tags.map((tag) => (
          <button
            key={tag}
            className="inline-flex h-7 items-center gap-1 rounded-full border border-base-300 px-2.5"
            aria-label={`Take away the tag ${tag}`}
            onClick={() => onRemove(tag)}
          >
            {tag}
            <X className="size-3.5" aria-hidden="true" />
          </button>
        ))}
      </div>
      <form
        className="mt-2 flex gap-2"
        onSubmit={(event) => {
          event.preventDefault();
          if (name.trim()) onAdd(name.trim());
          setName('');
        }}
      >
        <input
          className="input input-sm flex-1"
          aria-label="New tag"
          placeholder="for example: rainy"
          maxLength={60}
          value={name}
          onChange={(event) => setName(event.target.value)}
        />
        <button className="btn btn-sm">Add</button>
      </form>
    </section>
  );
}
