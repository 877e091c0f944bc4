// Writes tests/awkward-texts.json: texts that something on the way could take for something else, or change. Every test of a destination sends all of them.
import { writeFileSync } from 'node:fs';

const unseen = ['\u200B', '\u00AD', '\u2060', '\uFEFF', '\u202E', '\u200F', '\u2066', '\u180E'];
const texts = [
  // Taken for code of one kind or another.
  '<script>alert(1)</script>', '{{number}} & "quotes" \'n\' <b>', '&amp;lt;', '<!-- -->', ']]>', '${x} $(y) `z`', "'; drop table answers; --", '\\n\\t\\\\', '%00%0A', '%s %d {0} {1}', '=1+1', '+1', '-1', '@sum(a)', '#REF!', '__proto__', 'constructor', 'null', 'undefined', 'NaN', 'true', '{"a":1}', '[1,2]',
  // Taken for a line of the message, or the protocol.
  '.', '..', 'From the garden', '>From', 'Item 1: Zinc label', 'Details:', '--', '--boundary', 'Subject: hello', '=?utf-8?q?hi?=', '=?utf-8?B?aGk=?=', '=20=', '=E2=80=A8',
  // Where blanks and ends of lines stand.
  'a  b   c', 'a\u00A0b', 'a\tb', 'one\ntwo', 'one\n\ntwo', 'one\n  two', '  How many: 1', 'one\n    two\nthree', 'a\u2028b', 'a\u2029b', 'a\u0085b', 'a\u000Bb', 'a\u3000b',
  // Scripts, directions, marks.
  'Für Großmutter Zoë 🌿', 'Zoe\u0308', 'שלום עולם', 'مرحبا بالعالم', 'العدد 12٣', '名前 ﷽ 𝔘𝔫𝔦𝔠𝔬𝔡𝔢', 'ไม่มีช่องว่าง', 'क्षत्रिय', 'தமிழ்', '한국어', 'İstanbul ıi', 'ǆ ﬁ ß ſ', 'e\u0301\u0302\u0303\u0304', '👩‍👩‍👧‍👦 👍🏽 🇮🇪', '𐍈', '\uD83D\uDE00', '①②③', '１２３',
  // Long, or nothing but one thing.
  'x'.repeat(500), '🌿'.repeat(120), 'word '.repeat(100).trim(), '~', '|', '/', '\\', '"', "'", '`', ':', ';', ',', '=', '&', '?', '#', '0', '00', '1e3', '1,000', '-0',
  ...unseen.map((c) => `a${c}b`),
];
writeFileSync(new URL('awkward-texts.json', import.meta.url), `${JSON.stringify(texts, null, 1)}\n`);
