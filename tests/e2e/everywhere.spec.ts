import type { Locator, Page } from '@playwright/test';
import { ApiManager } from './apiManager';
import { buy } from './apiShopper';
import { Desk } from './desk';
import { expect, test } from './fixtures';

// A world of its own: makers refuse and keep silent here.
test.use({ shop: 'Everywhere', expected: [/status of 4\d\d/] });

/** A message as the mail server has it. */
interface Received {
  to: string[];
  data: string;
}

const destination = (page: Page, key: string) => page.getByRole('region', { name: `The destination ${key}` });

test('two makers, three messages and a word of the back office’s own: each answer arrives, and what is stuck is told and mended', async ({
  page,
  world,
  signIn,
}) => {
  await signIn();
  const desk = new Desk(page);
  const api = new ApiManager(page.request, world.address);
  const gets = async (at: Locator, name: string, ...fields: string[]) => {
    for (const field of fields) await desk.chooseIn(at.getByRole('combobox', { name: `Add a field to ${name}` }), field);
  };
  const make = async (kind: string, name: string): Promise<Locator> => {
    await page.getByRole('button', { name: kind, exact: true }).click();
    await page.getByLabel('Name', { exact: true }).fill(name);
    await page.getByRole('button', { name: 'Add it to the draft' }).click();
    const made = destination(page, name.toLowerCase().replaceAll(' ', '_'));
    await expect(made).toBeVisible();
    return made;
  };
  // What has no room is left out, and said; everything else is there.
  const arrived = async () => {
    const head = page.locator('.title-row');
    await expect(head).toContainText('2 arrivals left out for want of room');
    await expect(head).not.toContainText(/on the way|not as expected|release/, { timeout: 90_000 });
  };
  const when = async (at: Locator, name: string, picked: string, fact: string, relation: string, value: string) => {
    await desk.choose(at, `What ${name} gets`, picked);
    await at.getByRole('button', { name: 'add a test' }).click();
    await desk.choose(at, 'What is tested', fact);
    await desk.choose(at, 'How it is compared', relation);
    await at.getByLabel('What it is compared with').fill(value);
    await page.keyboard.press('Enter');
  };

  await test.step('the questions are there', async () => {
    await api.field('words', 'Words on the label', 'line_text', 'line', ['LA-ZINC-L'], { 'settings.longest': 40 });
    await api.field('letters', 'Letters', 'worked_out', 'line', ['LA-ZINC-L'], {
      'settings.decimals': 0,
      'settings.working': [{ do: 'take', of: { fact: 'answer.words', length_by: 'letter' } }],
    });
    await api.field('access', 'Access width', 'number', 'line', ['TR-HORNBEAM'], { 'settings.unit': 'cm' });
    await api.field('size', 'Size of the box', 'one_of', 'order', [], {
      'settings.choices': [
        { key: 'small', label: { en: 'Small' } },
        { key: 'medium', label: { en: 'Medium' } },
      ],
    });
    await api.field('card_says', 'What the card says', 'long_text', 'order', [], { 'settings.longest': 200 });
    await api.field('card_email', 'Whose card it is', 'email', 'order', []);
    await api.field('card_day', 'On which day', 'date', 'order', []);
    await api.field('seat_email', 'Their e-mail', 'email', 'unit', ['WA-MAY']);
    await api.connection('ferrow', 'Ferrow Works', `${world.standInAddress}/makers/ferrow/`);
    await api.connection('quill', 'Quill and Stamp', `${world.standInAddress}/makers/quill/`);
    await page.goto(`${world.address}/console/fields?by=destinations`);
  });

  await test.step('two makers, the second of them for labels over 24 letters, with codes from a file', async () => {
    const quill = await make('systems: maker', 'Quill and Stamp');
    await desk.choose(quill, 'by the connection …', '“Quill and Stamp”');
    await when(quill, 'Quill and Stamp', 'lines of which', 'Letters', 'is over', '24');
    await gets(quill, 'Quill and Stamp', 'Words on the label');
    await quill.locator('input[type=file]').setInputFiles({
      name: 'codes.csv',
      mimeType: 'text/csv',
      buffer: Buffer.from('item code,code there\r\nLA-ZINC-L,QS-10\r\nLA-ZINC-S,QS-20\r\n'),
    });
    await expect(quill.getByRole('textbox', { name: 'The code there for LA-ZINC-L' })).toHaveValue('QS-10');
    const ferrow = await make('systems: maker', 'Ferrow Works');
    await desk.choose(ferrow, 'by the connection …', '“Ferrow Works”');
    await when(ferrow, 'Ferrow Works', 'lines of which', 'Letters', 'is over', '0');
    await gets(ferrow, 'Ferrow Works', 'Words on the label');
    await ferrow.getByLabel('Our item code').fill('LA-ZINC-L');
    await ferrow.getByLabel('Their code').fill('FW 118');
    await ferrow.getByRole('button', { name: 'match', exact: true }).click();
    await expect(ferrow.getByRole('textbox', { name: 'The code there for LA-ZINC-L' })).toHaveValue('FW 118');
    await desk.choose(page.getByRole('region', { name: 'What it gets' }), 'Product of the stand-in order', 'Zinc label, stamped, large');
    await expect(page.getByText('"code": "FW 118"')).toBeVisible();
  });

  await test.step('staff, the card’s recipient and each seat get a message, and the back office its own word', async () => {
    const yard = await make('messages: to staff', 'Tree yard');
    await yard.getByLabel('to …').fill('yard@marrowby.example');
    await page.keyboard.press('Enter');
    await when(yard, 'Tree yard', 'lines of which', 'height', 'is over', '3');
    await gets(yard, 'Tree yard', 'Access width');

    const card = await make('messages: to a recipient', 'Card');
    await desk.choose(card, 'to the address in …', '“Whose card it is”');
    await desk.choose(card, 'When Card gets it', 'on the day of');
    await desk.choose(card, 'Which answer gives the day of Card', '“On which day”');
    await gets(card, 'Card', 'What the card says');
    await expect(page.frameLocator('iframe').getByText('What the card says')).toBeVisible();
    await expect(page.frameLocator('iframe').getByText('€')).toHaveCount(0);

    const guests = await make('messages: to a recipient', 'Guests');
    await desk.choose(guests, 'to the address in …', '“Their e-mail”');
    await gets(guests, 'Guests', 'Who is coming');

    await page.getByRole('table', { name: 'Destinations' }).getByRole('button', { name: 'Back office' }).click();
    const office = destination(page, 'back_office');
    await office.getByRole('button', { name: 'Words for the answers to Size of the box' }).click();
    const saved = page.waitForResponse(/draft\/items\/back_office/);
    await office.getByLabel('What Medium of Size of the box is called there').fill('M');
    await page.keyboard.press('Enter');
    await saved;
    await desk.publish('Arrive everywhere');
  });

  const seats = ['Zoë', 'Bo'].map((guest, i) => ({
    id: `u${i + 1}`,
    answers: { guest_name: guest, seat_email: `${guest === 'Zoë' ? 'zoe' : 'bo'}@seat.example` },
  }));
  const buyAll = (words: string[]): Promise<number> =>
    buy(
      world,
      [
        ...words.map((word) => ({ product: 'LA-ZINC-L', quantity: 1, answers: { words: word } })),
        { product: 'TR-HORNBEAM', quantity: 1, answers: { access: '110' } },
        { product: 'WA-MAY', quantity: 2, answers: {}, units: seats },
      ],
      {
        size: 'medium',
        card_says: 'Happy\nbirthday',
        card_email: 'ada@card.example',
        card_day: new Date().toISOString().slice(0, 10),
      },
    );

  await test.step('bought once, each answer has its mark everywhere, opened with its evidence', async () => {
    const number = await buyAll(['Für Zoë', 'Beside the old wall of the south orchard']);
    // The card waits for eight in the morning of its day, where that is still to come.
    await world.query("update lanes set next_try_at = now() where destination = 'card' and settled_at is null");
    await page.goto(`${world.address}/console/orders/${number}`);
    await arrived();
    const marks: [answer: string, place: string, shows: string][] = [
      ['Words on the label', 'Ferrow Works', 'Für Zoë'],
      ['Access width', 'Tree yard', '110 cm'],
      ['What the card says', 'Card', 'Happy'],
      ['Who is coming', 'Guests', 'Zoë'],
      ['Size of the box', 'Back office', 'M'],
    ];
    for (const [answer, place, shows] of marks) {
      await page
        .getByRole('button', { name: new RegExp(`^${answer}, ${place}: (confirmed|included)`) })
        .first()
        .click();
      const evidence = page.getByRole('region', { name: 'Evidence' });
      await expect(evidence).toContainText(shows);
    }
    const jobs = (maker: string) =>
      fetch(`${world.standInAddress}/makers/${maker}/jobs`).then((r) => r.json()) as Promise<{ job: { code: string } }[]>;
    expect((await jobs('ferrow')).map((j) => j.job.code)).toEqual(['FW 118']);
    expect((await jobs('quill')).map((j) => j.job.code)).toEqual(['QS-10']);
    const sent = await world.received<Received>('mail/messages');
    const to = (address: string) => sent.filter((m) => JSON.stringify(m).includes(address) && !JSON.stringify(m).includes('odile@'));
    for (const address of ['yard@marrowby.example', 'ada@card.example', 'zoe@seat.example', 'bo@seat.example'])
      expect(to(address), address).toHaveLength(1);
  });

  await test.step('one maker refuses, the other keeps silent: somebody is told; one is mended, the other handed over, and both go', async () => {
    // A code that they do not know.
    const codeOfFerrow = async (code: string) => {
      await page.goto(`${world.address}/console/fields/ferrow_works?by=destinations`);
      const saved = page.waitForResponse(/ferrow_works\/codes/);
      await destination(page, 'ferrow_works').getByRole('textbox', { name: 'The code there for LA-ZINC-L' }).fill(code);
      await page.keyboard.press('Enter');
      await saved;
    };
    await codeOfFerrow('FW 999');
    await world.dial('makers/quill', { down: true });
    const number = await buyAll(['Bo', 'Along the beech hedge by the lower gate']);
    await page.getByRole('link', { name: /^Deliveries/ }).click();
    const refused = page.getByRole('row', { name: new RegExp(`${number}.*Ferrow Works`) });
    await expect(refused.getByText(/Ferrow Works” refused it/)).toBeVisible();
    await expect(page.getByRole('row', { name: /^Quill and Stamp/ }).getByText(/not taking since/)).toBeVisible();
    await expect(page.getByRole('link', { name: 'Deliveries 1' })).toBeVisible();
    await refused.getByRole('button', { name: 'hand over' }).click();
    await desk.chooseIn(page.getByRole('combobox', { name: 'To whom' }), 'Tamsin Oakes');
    await page.getByLabel('what is to be done').fill('ask them by telephone');
    await page.getByRole('button', { name: 'Hand it over' }).click();
    await expect(refused.getByText('Tamsin Oakes: “ask them by telephone”')).toBeVisible();
    await codeOfFerrow('FW 118');
    // Its next try by itself is far off: what sends it is the button.
    await world.query(
      "update lanes set next_try_at = now() + interval '1 hour' where destination like 'quill%' and settled_at is null and state = 0",
    );
    await world.dial('makers/quill', {});
    await page.getByRole('link', { name: /^Deliveries/ }).click();
    await refused.getByRole('button', { name: 'send again' }).click();
    await page.getByRole('button', { name: 'Try Quill and Stamp now' }).click();
    await expect(refused).toHaveCount(0);
    await world.query("update lanes set next_try_at = now() where destination = 'card' and settled_at is null");
    await page.goto(`${world.address}/console/orders/${number}`);
    await arrived();
  });
});
