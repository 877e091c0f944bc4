// Lets the demo shop have lived for some weeks: its manager asks further questions and publishes them, two hundred people buy, and a few things go wrong.
// Everything goes by the API, as people's browsers would send it. All people, places and numbers are made up.
//   node demo/lived-in.mjs SHOP-URL WORLD-URL MANAGER PASSWORD
import { readFile } from 'node:fs/promises';
import { deflateSync } from 'node:zlib';
import { randomBytes, randomUUID } from 'node:crypto';

const [shop, world, manager, password] = process.argv.slice(2);
const ORDERS = 200;

/** One browser: cookies, and the token that changing requests carry. */
class Browser {
  #cookies = new Map();
  #token;

  async send(method, path, body, headers = {}) {
    if (method !== 'GET') this.#token ??= (await this.send('GET', '/api/antiforgery')).token;
    const isBytes = body instanceof Uint8Array;
    const response = await fetch(shop + path, {
      method,
      headers: {
        ...(isBytes ? {} : { 'content-type': 'application/json' }),
        ...(method === 'GET' ? {} : { 'X-Antiforgery': this.#token }),
        cookie: [...this.#cookies].map(([name, value]) => `${name}=${value}`).join('; '),
        ...headers,
      },
      body: body === undefined || isBytes ? body : JSON.stringify(body),
    });
    for (const cookie of response.headers.getSetCookie()) {
      const [name, ...value] = cookie.split(';')[0].split('=');
      this.#cookies.set(name, value.join('='));
    }
    const text = await response.text();
    if (!response.ok) throw new Error(`${method} ${path}: ${response.status} ${text}`);
    this.location = response.headers.get('location');
    return text ? JSON.parse(text) : undefined;
  }

  forgetToken() {
    this.#token = undefined;
  }
}

const dial = (standIn, setting) =>
  fetch(`${world}/${standIn}/dial`, { method: 'PUT', headers: { 'content-type': 'application/json' }, body: JSON.stringify(setting) });

// ---- The manager ----

const desk = new Browser();
await desk.send('POST', '/api/console/v1/session', { email: manager, password });
desk.forgetToken();

const revisionOf = (draft, key) =>
  [
    ...draft.fields.map((f) => [f.field.key, f.revision]),
    ...draft.sections.map((s) => [s.section.key, s.revision]),
    ...draft.own_steps.map((s) => [s.step.key, s.revision]),
    ...draft.destinations.map((d) => [d.key, d.revision]),
  ].find(([k]) => k === key)[1];

async function change(key, settings) {
  let revision = revisionOf(await desk.send('GET', '/api/console/v1/draft'), key);
  for (const [setting, value] of Object.entries(settings)) {
    ({ revision } = await desk.send('PATCH', `/api/console/v1/draft/items/${key}`, { setting, value }, { 'If-Match': `"${revision}"` }));
  }
}

async function field(label, key, type, { level = 'line', of, section, ...settings } = {}) {
  await desk.send('POST', '/api/console/v1/draft/fields', {
    label,
    key,
    type,
    level,
    section: section ?? null,
    asked_of: of ? { all: false, ...of } : { all: true },
  });
  await change(key, settings);
}

async function paper(key, kind, name, fields, settings) {
  await desk.send('POST', '/api/console/v1/draft/destinations', { key, kind, name });
  await change(key, settings);
  for (const going of fields) await change(going, { [`goes_to.${key}`]: true });
}

async function publish(note) {
  const { next, seen, problems } = await desk.send('GET', '/api/console/v1/versions');
  if (problems.length) throw new Error(JSON.stringify(problems));
  await desk.send('POST', '/api/console/v1/versions', { number: next, seen, note });
}

const choices = (...labels) => labels.map(([key, label, more]) => ({ key, label: { en: label }, ...more }));
const labels = { tags: ['stamped'] },
  trees = { categories: ['Trees'] },
  walks = { categories: ['Orchard walks'] };

await field('Words on the label', 'words_on_the_label', 'line_text', {
  of: labels,
  required: true,
  'settings.longest': 40,
  'help.en': 'As you write it, so it is stamped.',
  prices: [{ kind: 'per_unit', by: 'letter', included: 12, tariff: { minor: 20, bands: [{ over: 20, minor: 15 }] } }],
});
await change('typeface', {
  'settings.choices': choices(
    ['clarendon', 'Clarendon', { code: 'CL' }],
    ['roman', 'Roman', { code: 'RO' }],
    ['plain', 'Plain', { code: 'PL' }],
  ),
  code: {},
  required: true,
});
await field('Picture of the site', 'picture_of_the_site', 'picture', { of: { products: ['LA-ZINC-L'] }, 'settings.most': 3 });
await field('Hung or on a stake', 'hung_or_stake', 'one_of', {
  of: { products: ['LA-ZINC-S'] },
  'settings.choices': choices(['hung', 'Hung on a wire'], ['stake', 'On a stake']),
  prices: [{ kind: 'per_unit', choice: 'stake', tariff: { minor: 90 } }],
});
await publish('Labels');

await field('Badge name', 'badge_name', 'line_text', { level: 'unit', of: walks, 'settings.longest': 20 });
await field('Their e-mail, for the ticket', 'guest_email', 'email', { level: 'unit', of: walks });
await field('Pace', 'pace', 'one_of', {
  level: 'unit',
  of: walks,
  required: true,
  'settings.choices': choices(['stroller', 'Stroller'], ['steady', 'Steady'], ['brisk', 'Brisk']),
});
await field('Tea afterwards?', 'tea', 'yes_no', { level: 'unit', of: walks, prices: [{ kind: 'per_unit', tariff: { minor: 450 } }] });
await field('Language of the guide', 'guide_language', 'one_of', {
  of: walks,
  'settings.choices': choices(['en', 'English'], ['ga', 'Irish'], ['fr', 'French']),
  default: 'en',
});
await field('Whom to call in an emergency', 'emergency', 'telephone', {
  of: walks,
  sensitive: true,
  'goes_to.shopper_email': false,
  'goes_to.cart_line': false,
});
await field('The ground is uneven', 'uneven_ground', 'agreed_to', {
  of: walks,
  required: true,
  'settings.terms': {
    en: 'The paths through the orchard are wet and uneven. I wear shoes that stand that, and look after the children I bring.',
  },
});
await publish('Walks ask each seat');

await field('Which tie', 'tie', 'one_of', {
  of: trees,
  'settings.choices': choices(['none', 'No tie'], ['soft', 'A soft tie']),
  uses: [{ item: 'AC-TIE', choice: 'soft', quantity: 1, takes_price: true }],
});
await field('Access width', 'access_width', 'number', {
  of: trees,
  'settings.unit': 'cm',
  required: true,
  when: {
    together: [
      { of: 'attribute.height', over: 3 },
      { of: 'group', is_not: 'trade' },
    ],
  },
});
await field('Cables overhead?', 'cables', 'yes_no', { of: trees, when: { of: 'attribute.height', over: 3 } });
await field('How many metres', 'hedge_metres', 'number', { of: { categories: ['Hedging'] }, 'settings.unit': 'm', 'settings.decimals': 1 });
await field('Plants that makes', 'plants', 'worked_out', {
  of: { categories: ['Hedging'] },
  'settings.decimals': 0,
  'settings.working': [
    { do: 'take', of: { fact: 'answer.hedge_metres' } },
    { do: 'times', of: { fact: 'attribute.plants_a_metre' } },
    { do: 'round_up', to: 1 },
  ],
});
await field('Bulbs in the box', 'bulbs', 'how_many_of_each', {
  of: { products: ['BU-BOX'] },
  required: true,
  'settings.choices': choices(['tulip', 'Tulip'], ['crocus', 'Crocus'], ['squill', 'Squill'], ['allium', 'Allium'], ['iris', 'Iris']),
  'settings.least': 12,
  'settings.most': 12,
  'settings.most_of_each': 12,
});
await field('How much', 'credit_amount', 'amount_of_money', {
  of: { products: ['CR-PLANT'] },
  required: true,
  'settings.least': 10,
  'settings.most': 500,
  prices: [{ kind: 'for_the_goods', by: 'amount' }],
});
await field('A word for whoever gets it', 'word_for', 'long_text', { of: { products: ['CR-PLANT'] }, 'settings.longest': 60 });
await publish('Trees, hedges, bulbs and credits');

await desk.send('POST', '/api/console/v1/draft/sections', { heading: 'Card in the parcel', key: 'card', level: 'order' });
await change('card', { 'opening.en': 'Add a card?' });
await field('Message', 'card_message', 'long_text', { level: 'order', section: 'card', required: true, 'settings.longest': 200 });
await field('From whom', 'card_from', 'line_text', { level: 'order', section: 'card', 'settings.longest': 40 });
await field('Leave the prices out of the parcel', 'no_prices', 'yes_no', { level: 'order', section: 'card', 'settings.box': true });
await desk.send('POST', '/api/console/v1/draft/sections', { heading: 'Who is buying?', key: 'buyer', level: 'order' });
await change('buyer', { step: 'contact' });
await field('Who is buying?', 'who_is_buying', 'one_of', {
  level: 'order',
  section: 'buyer',
  'settings.choices': choices(['household', 'A household'], ['organisation', 'An organisation']),
});
await field('Name of the organisation', 'organisation', 'line_text', {
  level: 'order',
  section: 'buyer',
  required: true,
  'settings.longest': 80,
  when: { of: 'answer.who_is_buying', is: 'organisation' },
});
await field('Your tax number', 'tax_number', 'tax_number', {
  level: 'order',
  section: 'buyer',
  'help.en':
    'With that of another country in the European Union, and an invoice that goes there, you are charged no tax, and owe it there.',
  'settings.registry': true,
  when: { of: 'answer.who_is_buying', is: 'organisation' },
});
await field('Your order reference', 'order_reference', 'line_text', {
  level: 'order',
  section: 'buyer',
  'settings.longest': 30,
  when: { of: 'answer.who_is_buying', is: 'organisation' },
});
await publish('Cards and organisations');

// Who stamps the labels: a maker outside, and a bench in the house for what is given to it by hand.
await desk.send('PUT', '/api/console/v1/shop/connections/ferrow', { name: 'Ferrow Works', address: `${world}/makers/ferrow` });
await desk.send('PUT', '/api/console/v1/shop/connections/ferrow/secret', { secret: randomUUID() });
await desk.send('POST', '/api/console/v1/draft/destinations', { key: 'ferrow', kind: 'maker', name: 'Ferrow Works' });
await change('ferrow', {
  'settings.connection': 'ferrow',
  gets: { of: 'tag', has_in_it: 'stamped' },
  'names.words_on_the_label.name.en': 'inscription',
  'names.typeface.name.en': 'face',
  'names.typeface.values.clarendon': 'cl',
  'names.typeface.values.roman': 'ro',
  'names.typeface.values.plain': 'pl',
});
await desk.send('POST', '/api/console/v1/draft/destinations', { key: 'stamping_bench', kind: 'workbench', name: 'Stamping bench' });
await change('stamping_bench', { 'settings.lines': 'by_hand' });
for (const key of ['words_on_the_label', 'typeface', 'planting_year'])
  await change(key, { 'goes_to.ferrow': true, 'goes_to.stamping_bench': true });
for (const face of ['CL', 'RO', 'PL']) {
  for (const [item, code] of [
    ['LA-ZINC-L', 'FW 118'],
    ['LA-ZINC-S', 'FW 119'],
  ])
    await desk.send('PUT', '/api/console/v1/destinations/ferrow/codes', { item: `${item}.${face}`, code });
}
await publish('Labels are stamped by Ferrow Works');

// What is printed: the slip in the parcel, with the card at its foot; the card at the bench; and a ticket for each seat.
await desk.send('PATCH', '/api/console/v1/shop/settings', {
  letterhead_lines: 'Orchard Lane 1, Aldmoor\norders@marrowby.example',
  street: 'Orchard Lane 1',
  town: 'Aldmoor',
  tax_number: 'IE0000264TA',
  reverse_charge: true,
});
await paper(
  'packing_slip',
  'packing_slip',
  'Packing slip',
  [
    'words_on_the_label',
    'typeface',
    'planting_year',
    'tie',
    'substitutes',
    'bulbs',
    'name',
    'delivery_address',
    'safe_place',
    'card_message',
    'card_from',
  ],
  {
    release: 'prepared',
    'settings.codes': true,
    'settings.prices': true,
    'settings.card': 'card_message',
    'settings.card_from': 'card_from',
    without_prices_when: { of: 'answer.no_prices', is: true },
  },
);
await paper(
  'job_card',
  'job_card',
  'Job card',
  ['words_on_the_label', 'typeface', 'planting_year', 'hung_or_stake', 'picture_of_the_site'],
  {
    gets: { of: 'tag', has_in_it: 'stamped' },
    'settings.large': 'words_on_the_label',
    'settings.typeface': 'serif',
  },
);
await paper('ticket', 'ticket', 'Ticket', ['guest_name', 'badge_name', 'pace', 'tea', 'guide_language', 'uneven_ground'], {
  gets: { of: 'category', is: 'Orchard walks' },
});
await paper('seat_tickets', 'recipient_email', 'Tickets to the guests', ['guest_name', 'guide_language'], {
  'settings.to': 'guest_email',
  'settings.subject.en': 'Your ticket: {product}',
  'settings.heading.en': 'See you at {product}, {guest_name}',
  'settings.carries': ['ticket'],
});
await publish('Slips, job cards and tickets');

// What is owed: an invoice for each order, and a credit note for one that is corrected later.
for (const [key, name] of [
  ['invoice', 'Invoice'],
  ['credit_note', 'Credit note'],
])
  await paper(
    key,
    key,
    name,
    ['name', 'organisation', 'tax_number', 'order_reference', 'delivery_address', 'invoice_address', 'words_on_the_label', 'guest_name'],
    {
      'settings.organisation': 'organisation',
      'settings.person': 'name',
      'settings.address': 'delivery_address',
      'settings.own_address': 'invoice_address',
      'settings.tax_number': 'tax_number',
      'settings.reference': 'order_reference',
    },
  );
await change('shopper_email', { 'settings.carries': ['invoice'] });
await publish('Invoices');

// A screen at the counter that is told what can be fetched, and the bookkeeper's file each evening.
await desk.send('PUT', '/api/console/v1/shop/connections/board', { name: 'Pick-up board', address: `${world}/board` });
await desk.send('PUT', '/api/console/v1/shop/connections/board/secret', { secret: `whsec_${randomBytes(32).toString('base64')}` });
await desk.send('POST', '/api/console/v1/draft/destinations', { key: 'board', kind: 'events', name: 'Pick-up board' });
await change('board', { 'settings.connection': 'board', 'settings.path': 'told', 'settings.told': ['placed', 'prepared'] });
const inbox = await (await fetch(`${world}/files/access`)).json();
await desk.send('PUT', '/api/console/v1/shop/connections/bookkeeper', { name: 'Bookkeeper’s inbox', address: inbox.address });
await desk.send('PUT', '/api/console/v1/shop/connections/bookkeeper/secret', { secret: inbox.key });
await desk.send('PUT', '/api/console/v1/shop/connections/bookkeeper/host-key', { fingerprint: inbox.fingerprint });
await desk.send('POST', '/api/console/v1/draft/destinations', { key: 'ledger', kind: 'file_drop', name: 'Bookkeeper' });
await change('ledger', {
  'settings.connection': 'bookkeeper',
  'settings.folder': 'orders',
  'settings.each': 'day',
  'settings.form': 'csv',
});
for (const key of ['name', 'organisation', 'tax_number', 'order_reference', 'delivery_address', 'invoice_address'])
  await change(key, { 'goes_to.ledger': true });
await change('name', { 'goes_to.board': true });
// What the item codes tell anyway.
for (const key of ['typeface', 'tie']) await change(key, { 'goes_to.board': true, 'goes_to.ledger': true });
await publish('The pick-up board is told, and the bookkeeper gets a file each evening');

// In German, too, but for what somebody has not come to yet.
const german = await readFile(new URL('german.csv', import.meta.url), 'utf8');
const { digest, errors } = await desk.send('POST', '/api/console/v1/draft/texts/csv/difference', { csv: german });
if (errors.length) throw new Error(JSON.stringify(errors));
await desk.send('POST', '/api/console/v1/draft/texts/csv', { csv: german, seen: digest });
await desk.send('PATCH', '/api/console/v1/shop/settings', { languages: ['en', 'de'] });
await publish('What was asked is asked in German, too');

// Not in force yet: what is being worked on.
await field('Name on the gate', 'gate_name', 'line_text', { level: 'order', 'settings.longest': 40 });
await change('card_message', { 'help.en': 'We write it by hand.' });

// ---- The shoppers ----

let state = 20261101;
const random = () => (state = (state * 1103515245 + 12345) % 2147483648) / 2147483648;
const pick = (list) => list[Math.floor(random() * list.length)];

const first = [
  'Odile',
  'Ines',
  'Corin',
  'Maeve',
  'Tobias',
  'Zoë',
  'Ruairí',
  'Lenka',
  'Ansel',
  'Bríd',
  'Hakon',
  'Nuala',
  'Emrys',
  'Ottoline',
  'Sorcha',
  'Yusuf',
];
const last = [
  'Farrant',
  'Moorland',
  'Quillfeather',
  'Oakes',
  'Harrowby',
  'Tern',
  'Ashgrove',
  'Pell',
  'Winterbourne',
  'Lark',
  'Merrow',
  'Thistlewood',
];
const streets = ['Quarry Lane', 'Mill Row', 'Orchard Rise', 'Harbour Walk', 'Church Path', 'Weaver’s Yard'];
const towns = ['Aldmoor', 'Ballyfarrant', 'Carrowmere', 'Dunquill', 'Eskerton'];
const sayings = [
  'Grandmother’s quince',
  'Für Großmutter Zoë',
  'Planted in the rain',
  'Here lies the old wall',
  'Ada, 2026',
  'The long row',
  'From all of us',
  'Keep off the roots',
];
const notes = ['Grow well.', 'For your new garden.\nWith love', 'Happy birthday!', 'Thank you for the apples.', 'To be opened in spring.'];

/** A small picture: a PNG of one colour. */
function picture(shade) {
  const crc = (bytes) => {
    let c = ~0;
    for (const byte of bytes) {
      c ^= byte;
      for (let k = 0; k < 8; k++) c = c & 1 ? (c >>> 1) ^ 0xedb88320 : c >>> 1;
    }
    return ~c >>> 0;
  };
  const chunk = (name, data) => {
    const body = Buffer.concat([Buffer.from(name), data]);
    const frame = Buffer.alloc(8);
    frame.writeUInt32BE(data.length, 0);
    frame.writeUInt32BE(crc(body), 4);
    return Buffer.concat([frame.subarray(0, 4), body, frame.subarray(4)]);
  };
  const [width, height] = [640, 480];
  const head = Buffer.alloc(13);
  head.writeUInt32BE(width, 0);
  head.writeUInt32BE(height, 4);
  head.set([8, 2, 0, 0, 0], 8);
  const row = Buffer.concat([Buffer.from([0]), Buffer.alloc(width * 3, shade)]);
  return Buffer.concat([
    Buffer.from([137, 80, 78, 71, 13, 10, 26, 10]),
    chunk('IHDR', head),
    chunk('IDAT', deflateSync(Buffer.concat(Array(height).fill(row)))),
    chunk('IEND', Buffer.alloc(0)),
  ]);
}

async function upload(browser) {
  const bytes = picture(60 + Math.floor(random() * 140));
  const base64 = (text) => Buffer.from(text).toString('base64');
  await browser.send('POST', '/api/shop/v1/files', undefined, {
    'Tus-Resumable': '1.0.0',
    'Upload-Length': String(bytes.length),
    'Upload-Metadata': `filename ${base64('site.png')},field ${base64('picture_of_the_site')}`,
  });
  const { location } = browser;
  await browser.send('PATCH', location, bytes, {
    'Tus-Resumable': '1.0.0',
    'Upload-Offset': '0',
    'content-type': 'application/offset+octet-stream',
  });
  return location.split('/').at(-1);
}

const lines = {
  label: async (browser) => ({
    product: 'LA-ZINC-L',
    quantity: 1 + Math.floor(random() * 3),
    answers: {
      words_on_the_label: pick(sayings),
      typeface: pick(['clarendon', 'roman', 'plain']),
      planting_year: 2020 + Math.floor(random() * 7),
      ...(random() < 0.12 ? { picture_of_the_site: [await upload(browser)] } : {}),
    },
  }),
  tag: async () => ({
    product: 'LA-ZINC-S',
    quantity: 1,
    answers: { words_on_the_label: pick(sayings), typeface: 'plain', hung_or_stake: pick(['hung', 'stake']) },
  }),
  walk: async () => {
    const quantity = 1 + Math.floor(random() * 4);
    return {
      product: pick(['WA-MAY', 'WA-OCTOBER']),
      quantity,
      answers: {
        guide_language: pick(['en', 'en', 'ga', 'fr']),
        emergency: '020 912 0123',
        uneven_ground: {
          text: 'The paths through the orchard are wet and uneven. I wear shoes that stand that, and look after the children I bring.',
        },
      },
      units: Array.from({ length: quantity }, (_, i) => ({
        id: `u${i + 1}`,
        answers: {
          guest_name: pick(first),
          ...(i === 0 ? { guest_email: `seat.${quantity}@guest.example` } : {}),
          badge_name: random() < 0.5 ? pick(first) : '',
          pace: pick(['stroller', 'steady', 'brisk']),
          tea: random() < 0.6,
        },
      })),
    };
  },
  tree: async () => ({
    product: pick(['TR-QUINCE', 'TR-CRAB']),
    quantity: 1,
    answers: { tie: pick(['none', 'soft']), potting_up: random() < 0.3, substitutes: random() < 0.4 },
  }),
  bulbs: async () => ({
    product: 'BU-BOX',
    quantity: 1,
    answers: { bulbs: pick([{ tulip: '7', crocus: '5' }, { iris: '12' }, { tulip: '4', squill: '4', allium: '4' }]) },
  }),
  slate: async () => ({ product: 'AC-TIE', quantity: 2, answers: {} }),
};

async function buy(n) {
  const browser = new Browser();
  const name = `${pick(first)} ${pick(last)}`;
  const sends = [];
  for (let i = 0, many = random() < 0.3 ? 2 : 1; i < many; i++) {
    const line = await lines[pick(['label', 'label', 'walk', 'walk', 'tree', 'bulbs', 'tag', 'slate'])](browser);
    await browser.send('POST', '/api/shop/v1/cart/lines', line, { 'Idempotency-Key': randomUUID() });
    sends.push(line);
  }
  const organisation = random() < 0.15;
  const buyer = organisation
    ? {
        organisation: pick(['Moorland Friends', 'Hedgerow Works', 'The Long Row Society']),
        order_reference: `PO-${1000 + n}`,
        tax_number: pick(['', 'IE0000173H', 'DE271828180']),
      }
    : {};
  // Who is abroad owes the tax itself.
  const abroad = buyer.tax_number?.startsWith('DE') ? { town: 'Bremen', postcode: '28195', country: 'DE' } : {};
  const card = random() < 0.25;
  const view = await browser.send('PUT', '/api/shop/v1/cart/answers', {
    step: 'delivery',
    answers: {
      name,
      email:
        n % 50 === 7
          ? 'nobody@farrant.example'
          : `${name
              .toLowerCase()
              .normalize('NFD')
              .replaceAll(/[^a-z]+/g, '.')}@farrant.example`,
      who_is_buying: organisation ? 'organisation' : 'household',
      ...buyer,
      card,
      ...(card ? { card_message: pick(notes), card_from: name.split(' ')[0], no_prices: true } : {}),
      delivery_address: { street: `${pick(streets)} ${1 + Math.floor(random() * 60)}`, town: pick(towns), country: 'IE', ...abroad },
      safe_place: random() < 0.2 ? 'Under the bench' : '',
    },
  });
  if (view.evaluation.problems.length) throw new Error(JSON.stringify(view.evaluation.problems));
  const { token } = await (
    await fetch(`${world}/payments/tokens`, {
      method: 'POST',
      headers: { 'content-type': 'application/json' },
      body: JSON.stringify({ card: '9000000000000019' }),
    })
  ).json();
  const attempt = await browser.send(
    'POST',
    '/api/shop/v1/attempts',
    { payment_token: token, seen: view.evaluation.offer },
    { 'Idempotency-Key': randomUUID() },
  );
  if (attempt.order_token) await browser.send('GET', `/api/shop/v1/orders/${attempt.order_token}`);
}

let next = 0;
async function shoppers() {
  for (let n = next++; n < ORDERS; n = next++) {
    // For a while the back office shortens what it takes, and says nothing.
    if (n === 120) await dial('back-office', { shortensTo: 12 });
    if (n === 126) await dial('back-office', {});
    await buy(n);
  }
}
await Promise.all(Array.from({ length: 6 }, shoppers));
await dial('back-office', {});

// The last parcels are packed.
const { orders } = await desk.send('GET', '/api/console/v1/orders');
for (const { number } of orders.slice(0, 12)) {
  const order = await desk.send('GET', `/api/console/v1/orders/${number}`);
  for (const line of order.lines) await desk.send('PUT', `/api/console/v1/orders/${number}/lines/${line.id}/prepared`);
}
