/** A text as it is compared and searched, on both sides: small letters without accents, whatever their script. @example fold('Café') // => 'cafe' */
export const fold = (text: string): string =>
  text
    .normalize('NFKD')
    .replace(/[\u0300-\u036f]/g, '')
    .toLowerCase();
