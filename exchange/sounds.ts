import { existsSync, mkdirSync, readFileSync, renameSync, writeFileSync } from 'node:fs';
import { join } from 'node:path';
import { encodeAudio } from '../demo/encode/encode';
import { renderAudio } from '../demo/render';
import type { OfferedLoop } from './catalogue';

const overviewColumns = 120;

/** Makes the sounds on offer when they are first asked for, and keeps them in a folder. */
export class Sounds {
  private readonly making = new Map<string, Promise<Buffer>>();

  constructor(private readonly folder: string) {
    mkdirSync(folder, { recursive: true });
  }

  /** The file as its author gave it. */
  file({ id, spec, fileName }: OfferedLoop): Promise<Buffer> {
    return this.kept(`${id}.file`, () => (spec.format === 'midi' ? null : encodeAudio(renderAudio(spec), spec.format, fileName, false)));
  }

  /** The same as Ogg Vorbis, for hearing before one takes it. */
  preview({ id, spec, fileName }: OfferedLoop): Promise<Buffer> {
    return this.kept(`${id}.ogg`, () => encodeAudio(renderAudio(spec), 'ogg', `${fileName} preview`, false));
  }

  /** Highest levels along the loop, 0 to 255. */
  async overview({ id, spec }: OfferedLoop): Promise<readonly number[]> {
    const bytes = await this.kept(`${id}.overview`, () => {
      const [plane] = renderAudio(spec).channels,
        each = plane.length / overviewColumns;
      return Promise.resolve(
        Uint8Array.from({ length: overviewColumns }, (_, k) => {
          let most = 0;
          for (let i = Math.floor(k * each); i < Math.floor((k + 1) * each); i++) most = Math.max(most, Math.abs(plane[i]));
          return Math.min(255, Math.round(255 * most));
        }),
      );
    });
    return [...bytes];
  }

  private kept(name: string, make: () => Promise<Uint8Array> | null): Promise<Buffer> {
    const path = join(this.folder, name);
    if (existsSync(path)) return Promise.resolve(readFileSync(path));
    let made = this.making.get(name);
    if (!made) {
      made = Promise.resolve(make())
        .then((bytes) => {
          if (!bytes) throw new Error(`${name} has no sound`);
          writeFileSync(`${path}.part`, bytes);
          renameSync(`${path}.part`, path);
          return Buffer.from(bytes);
        })
        .finally(() => this.making.delete(name));
      this.making.set(name, made);
    }
    return made;
  }
}
