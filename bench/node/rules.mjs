// Decides with ajv and json-logic-js what the core decides: which fields are asked and which answers are refused. Given a file of
// rules and carts, it tells how many of each it found, and how many carts a second it did.
import { readFileSync } from 'node:fs';
import { Ajv } from 'ajv';
import jsonLogic from 'json-logic-js';

const { fields, carts } = JSON.parse(readFileSync(process.argv[2], 'utf8'));
const ajv = new Ajv({ strict: false });
const planned = fields.map((field) => ({ ...field, check: ajv.compile(field.schema) }));
const ofOrder = planned.filter((f) => f.level === 'order');
const ofLine = planned.filter((f) => f.level === 'line');

function decide(place, fields, given) {
  let [asked, refused] = [0, 0];
  for (const field of fields) {
    if (field.when && !jsonLogic.apply(field.when, place)) continue;
    asked++;
    const answer = given[field.key];
    if (answer === undefined || answer === '') refused += field.required ? 1 : 0;
    else if (field.check(answer)) place.answers[field.key] = answer;
    else refused++;
  }
  return [asked, refused];
}

function evaluate(cart) {
  const order = { group: cart.group, answers: {} };
  let [asked, refused] = decide(order, ofOrder, cart.answers);
  for (const line of cart.lines) {
    const [a, r] = decide({ quantity: line.quantity, answers: {}, order }, ofLine, line.answers);
    asked += a;
    refused += r;
  }
  return [asked, refused];
}

let totals = [0, 0];
for (const cart of carts) totals = totals.map((n, i) => n + evaluate(cart)[i]);

for (let i = 0; i < 3; i++) for (const cart of carts) evaluate(cart);
const rounds = 10;
const start = process.hrtime.bigint();
for (let i = 0; i < rounds; i++) for (const cart of carts) evaluate(cart);
const seconds = Number(process.hrtime.bigint() - start) / 1e9;
console.log(JSON.stringify({ asked: totals[0], refused: totals[1], carts_a_second: (rounds * carts.length) / seconds }));
