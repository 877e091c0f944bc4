import type { Schemas } from '../../shared/api/client';

type Part = Schemas['ArtefactPart'];

const faces: Record<Part['form'], string> = { html: 'as seen', plain: 'plain', bytes: 'bytes', sheets: 'as seen' };

/** What a part of something that was sent or served is called here. */
export const faceOf = (part: Part): string => faces[part.form];

/** The same of a part that something was found in, by its name; the name itself where the artefact is no longer kept. */
export function faceNamed(name: string, artefact: Part[]): string {
  const part = artefact.find((p) => p.name === name);
  return part ? faceOf(part) : name;
}
