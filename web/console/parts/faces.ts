/** What the parts of something that was sent or served are called here. */
export const faceOf = (part: string): string => ({ html: 'as seen', text: 'plain' })[part] ?? 'bytes';
