/**
 * Words for how something sounds, with those by which packs name it (common practice, from memory). The first twelve are measured too, see
 * `characterWords`; the others only people can say.
 */
export const characters: readonly { readonly id: string; readonly label: string; readonly words: RegExp }[] = [
  { id: 'dry', label: 'Dry', words: /\bdry\b/ },
  { id: 'roomy', label: 'Roomy', words: /\b(roomy|wet|reverb(erant)?|ambience)\b/ },
  { id: 'dark', label: 'Dark', words: /\b(dark|gloomy)\b/ },
  { id: 'bright', label: 'Bright', words: /\b(bright|shiny|sparkling)\b/ },
  { id: 'clean', label: 'Clean', words: /\bclean\b/ },
  { id: 'driven', label: 'Driven', words: /\b(driven|dist(orted)?|overdrive|fuzz|dirty|gritty|crunchy?)\b/ },
  { id: 'sparse', label: 'Sparse', words: /\b(sparse|minimal|stripped)\b/ },
  { id: 'busy', label: 'Busy', words: /\b(busy|dense)\b/ },
  { id: 'tight', label: 'Tight', words: /\btight\b/ },
  { id: 'loose', label: 'Loose', words: /\b(loose|sloppy|laid ?back)\b/ },
  { id: 'soft', label: 'Soft', words: /\b(soft|gentle)\b/ },
  { id: 'punchy', label: 'Punchy', words: /\b(punchy|hard|hitting|slamming)\b/ },
  { id: 'warm', label: 'Warm', words: /\bwarm\b/ },
  { id: 'dusty', label: 'Dusty', words: /\b(dusty|vinyl|crackl(e|ing)|worn)\b/ },
  { id: 'dreamy', label: 'Dreamy', words: /\b(dreamy|ethereal|floating)\b/ },
  { id: 'tense', label: 'Tense', words: /\b(tense|eerie|suspense)\b/ },
  { id: 'mellow', label: 'Mellow', words: /\bmellow\b/ },
];
