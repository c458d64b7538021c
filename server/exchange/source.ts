import type { Readable } from 'node:stream';
import type { OutsideLoop } from '~contracts/outside';

export interface OutsidePack {
  readonly id: string;
  readonly title: string;
  readonly author: string;
  readonly licence: string;
  readonly about: string;
  readonly pageUrl: string;
  readonly loops: readonly OutsideLoop[];
}

export interface OutsideQuery {
  readonly words: string;
  /** One of those that the source names; '' for all. */
  readonly category: string;
  /** From 0. */
  readonly page: number;
}

export interface OutsidePage {
  readonly total: number;
  readonly page: number;
  readonly pages: number;
  readonly categories: readonly string[];
  readonly loops: readonly OutsideLoop[];
}

/** Why the outside did not give what was asked, with a sentence for the person. */
export class OutsideError extends Error {
  constructor(
    /** `gone`, `refused` and `limit` stay so for now; `unreachable` may pass. */
    readonly kind: 'gone' | 'refused' | 'limit' | 'unreachable',
    message: string,
  ) {
    super(message);
  }
}

/**
 * What a source of loops outside must be able to do; see docs/exchange.md for how to add one. Everything may throw an `OutsideError`. Sources
 * try again by themselves what may pass, a few times within seconds; jobs go on trying for longer.
 */
export interface ExchangeSource {
  /** Short and lasting: it is stored with what was taken. */
  readonly id: string;
  readonly name: string;
  /** Where a person gets a key. */
  readonly keyUrl: string;
  search(query: OutsideQuery, signal?: AbortSignal): Promise<OutsidePage>;
  loop(id: string): Promise<OutsideLoop>;
  pack(id: string): Promise<OutsidePack>;
  /** A sound of the whole loop, as lossy as it likes, in any format that the library reads. */
  preview(id: string): Promise<Readable>;
  /** The file as its author gave it. @param token the person's own key there */
  file(id: string, token: string): Promise<Readable>;
  /** A zip of all of a pack's files, `packTitle/fileName`. */
  packZip(id: string, token: string): Promise<Readable>;
}
