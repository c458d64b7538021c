import { chunkId, latin1 } from './bytes';
import { extensionOf } from './sniff';

export type DocumentKind = 'text' | 'pdf' | 'picture';

/** What a pack may bring along beside its sounds. */
export interface DocumentType {
  readonly kind: DocumentKind;
  /** As browsers are told it (RFC 6838). */
  readonly mediaType: string;
}

const text: DocumentType = { kind: 'text', mediaType: 'text/plain; charset=utf-8' },
  jpeg: DocumentType = { kind: 'picture', mediaType: 'image/jpeg' };

/** By the endings vendors use. A test walks every row. */
export const documentsByExtension: Readonly<Record<string, DocumentType>> = {
  txt: text,
  md: text,
  pdf: { kind: 'pdf', mediaType: 'application/pdf' },
  jpg: jpeg,
  jpeg,
  png: { kind: 'picture', mediaType: 'image/png' },
  gif: { kind: 'picture', mediaType: 'image/gif' },
  webp: { kind: 'picture', mediaType: 'image/webp' },
};

/** Whether a file, by its name, is a document. */
export const isDocument = (path: string): boolean => extensionOf(path) in documentsByExtension;

/** Longer ones are not kept. */
export const mostDocumentBytes = 50 * 2 ** 20;

/** So many bytes of a file say what it is. */
export const documentHeadBytes = 16;

/**
 * What a document is, by its ending and its first bytes, which have to agree (ISO 32000-1, 7.5.2; W3C PNG 5.2; ITU-T T.81 B.1.1.3; GIF89a 17;
 * RFC 9649, 2.4); a text is taken at its word. @returns null for what is not what its name says
 */
export function documentType(path: string, head: Uint8Array): DocumentType | null {
  const type = documentsByExtension[extensionOf(path)] ?? null;
  return type && hasHead(type.mediaType, head) ? type : null;
}

function hasHead(mediaType: string, head: Uint8Array): boolean {
  switch (mediaType) {
    case 'application/pdf':
      return latin1(head, 0, 5) === '%PDF-';
    case 'image/png':
      return head[0] === 0x89 && latin1(head, 1, 3) === 'PNG';
    case 'image/jpeg':
      return head[0] === 0xff && head[1] === 0xd8 && head[2] === 0xff;
    case 'image/gif':
      return /^GIF8[79]a$/.test(latin1(head, 0, 6));
    case 'image/webp':
      return chunkId(head, 0) === 'RIFF' && chunkId(head, 8) === 'WEBP';
    default:
      return head.length > 0;
  }
}

/** How likely a picture is meant as the pack's cover: the smallest of several is taken; by its name, then by how deep it lies. */
export function coverRank(path: string): number {
  const parts = path.split('/'),
    file = parts.at(-1) ?? '';
  return parts.length + (/cover/i.test(file) ? 0 : /\b(art|artwork|front|folder)\b/i.test(file.replace(/[_-]/g, ' ')) ? 20 : 40);
}
