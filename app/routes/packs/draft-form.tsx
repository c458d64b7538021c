import type { VendorHabits } from '~server/services/imports/progress.server';
import { DraftFields, Line } from './draft-fields';
import type { Picked } from './upload';
import { megabytes } from '~/ui/size-words';

/** A pack's name by what was picked: the folder's, or the file's. */
export const guessName = (picked: readonly Picked[]): string => {
  const [first] = picked;
  if (!first) return '';
  return (first.path.includes('/') ? first.path.split('/')[0] : first.path.replace(/\.[A-Za-z0-9]+$/, '')).replace(/[_-]+/g, ' ');
};

/** What is said of an import before it begins. What was said of the vendor last time is there already. */
export function DraftForm({
  picked,
  habits,
  onSend,
  onLeave,
}: {
  picked: readonly Picked[];
  habits: readonly VendorHabits[];
  /** @param cover a picture to show of the pack */
  onSend: (form: FormData, cover: File | null) => void;
  onLeave: () => void;
}) {
  return (
    <form
      className="panel mt-3 flex flex-col gap-2 p-3"
      onSubmit={(event) => {
        event.preventDefault();
        const form = new FormData(event.currentTarget),
          cover = form.get('cover');
        form.delete('cover');
        onSend(form, cover instanceof File && cover.size > 0 ? cover : null);
      }}
    >
      <p>
        <strong>{picked.length}</strong> {picked.length === 1 ? 'file' : 'files'},{' '}
        {megabytes(picked.reduce((sum, each) => sum + each.file.size, 0))}
      </p>
      <DraftFields name={guessName(picked)} habits={habits} />
      <Line label="Cover">
        <input
          name="cover"
          type="file"
          accept="image/png,image/jpeg,image/webp,image/gif"
          className="file-input file-input-sm min-w-0 flex-1"
        />
      </Line>
      <div className="flex justify-end gap-2">
        <button type="button" className="btn btn-sm btn-ghost" onClick={onLeave}>
          Leave it
        </button>
        <button className="btn btn-sm btn-primary">Import</button>
      </div>
    </form>
  );
}
