// Decides with ajv and json-logic-js what the core decides: which fields are asked and which answers are refused. Given a file of
// rules and carts, it tells how many of each it found, and how many carts a second it did.
import { readFileSync } from 'node:fs';
import { Ajv } from 'ajv';
import jsonLogic from 'json-logic-js';

const { fields, carts } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const ajv = new Ajv({ strict: false });
// JSON Schema counts code points; what the core counts are characters as they are perceived. Not counted where the length already fits.
const segmenter = new Intl.Segmenter();
const characters = (text) => [...segmenter.segment(text)].length;
ajv.addKeyword({
  keyword: 'characters',
  type: 'string',
  schemaType: 'number',
  compile: (most) => (text) => text.length <= most || characters(text) <= most,
});
const planned = fields.map((field) => ({ ...field, check: ajv.compile(field.schema) }));
const ofOrder = planned.filter((f) => f.level === 'order');
const ofLine = planned.filter((f) => f.level === 'line');

const canonical = (answer) => (typeof answer === 'string' ? answer.replace(/\r\n?/g, '\n').normalize('NFC').trim() : answer);

function decide(place, line, fields, given, asked, problems) {
  for (const field of fields) {
    if (field.when && !jsonLogic.apply(field.when, place)) continue;
    const answer = canonical(given[field.key]);
    let value = null;
    if (answer === undefined || answer === '') {
      if (field.required) problems.push({ line, field: field.key, code: 'required' });
    } else if (field.check(answer)) {
      place.answers[field.key] = value = answer;
    } else {
      problems.push({ line, field: field.key, code: field.check.errors[0].keyword });
    }
    asked.push({ line, field: field.key, value, required: field.required });
  }
}

function evaluate(cart) {
  const [asked, problems] = [[], []];
  const order = { group: cart.group, answers: {} };
  decide(order, null, ofOrder, cart.answers, asked, problems);
  for (const line of cart.lines) decide({ quantity: line.quantity, answers: {}, order }, line.id, ofLine, line.answers, asked, problems);
  return [asked.length, problems.length];
}

let totals = [0, 0];
for (const cart of carts) totals = totals.map((n, i) => n + evaluate(cart)[i]);

for (let i = 0; i < 3; i++) for (const cart of carts) evaluate(cart);
const rounds = 10;
const start = process.hrtime.bigint();
for (let i = 0; i < rounds; i++) for (const cart of carts) evaluate(cart);
const seconds = Number(process.hrtime.bigint() - start) / 1e9;
console.log(JSON.stringify({ asked: totals[0], refused: totals[1], carts_a_second: (rounds * carts.length) / seconds }));
