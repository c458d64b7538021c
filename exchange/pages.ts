import type { OfferedLoop, OfferedPack } from './catalogue';

const escaped = (text: string): string => text.replace(/[&<>"]/g, (sign) => `&#${sign.charCodeAt(0)};`);

/** The exchange's own plain look, which is none of Garnetfinch's. */
const page = (title: string, body: string): string => `<!doctype html>
<html lang="en"><head><meta charset="utf-8"><title>${escaped(title)} · Pebblebank</title>
<style>body{font:16px/1.5 Georgia,serif;margin:2rem auto;max-width:46rem;padding:0 1rem;color:#222;background:#fdfcf7}
h1{font-size:1.5rem}a{color:#1a4f7a}table{border-collapse:collapse;width:100%}td,th{text-align:left;padding:.3rem .6rem;border-bottom:1px solid #ddd}</style>
</head><body><p><a href="/">Pebblebank</a>, loops left on the beach by people who make them</p><h1>${escaped(title)}</h1>${body}</body></html>`;

const factsOf = ({ stated }: OfferedLoop): string =>
  [
    stated.tempoBpm === null ? 'tempo not given' : `${stated.tempoBpm} bpm`,
    stated.key ?? 'key not given',
    stated.bars === null ? 'length not given' : `${stated.bars} bars`,
  ].join(', ');

export const frontPage = (packs: readonly OfferedPack[]): string =>
  page(
    'What was left lately',
    `<table><tr><th>Pack</th><th>By</th><th>Loops</th></tr>${packs
      .map(
        ({ id, title, author, loops }) =>
          `<tr><td><a href="/packs/${id}">${escaped(title)}</a></td><td>${escaped(author)}</td><td>${loops.length}</td></tr>`,
      )
      .join('')}</table>`,
  );

export const packPage = ({ title, about, licence, loops }: OfferedPack): string =>
  page(
    title,
    `<p>${escaped(about)}</p><p>${escaped(licence)}.</p><table>${loops
      .map((loop) => `<tr><td><a href="/loops/${loop.id}">${escaped(loop.title)}</a></td><td>${escaped(factsOf(loop))}</td></tr>`)
      .join('')}</table>`,
  );

export const loopPage = (loop: OfferedLoop, overview: readonly number[]): string =>
  page(
    loop.title,
    `<p>by ${escaped(loop.author)}, from <a href="/packs/${loop.packId}">its pack</a></p>
<svg viewBox="0 0 ${overview.length} 64" width="100%" height="64" role="img" aria-label="waveform">${overview
      .map((level, k) => `<rect x="${k}" y="${32 - level / 8}" width=".8" height="${Math.max(0.5, level / 4)}" fill="#1a4f7a"/>`)
      .join('')}</svg>
<p>${escaped(factsOf(loop))}</p><p>Licence: ${escaped(loop.licence)}.</p><audio controls src="/v1/loops/${loop.id}/preview.ogg"></audio>`,
  );

export const tokenPage = (token: string | null): string =>
  page(
    'A key of your own',
    token === null
      ? '<p>With a key you may take files. Say who you are:</p><form><input name="member" aria-label="Your name"> <button>Give me a key</button></form>'
      : `<p>This is your key. Whoever has it takes files in your name.</p><p><code>${token}</code></p>`,
  );
