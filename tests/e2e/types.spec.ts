import { execFileSync } from 'node:child_process';
import { mkdtempSync, readFileSync } from 'node:fs';
import { tmpdir } from 'node:os';
import { join } from 'node:path';
import { expect, test } from '@playwright/test';
import { root } from './database';

test('the types of the web client are generated from the committed description', () => {
  const fresh = join(mkdtempSync(join(tmpdir(), 'sexton-types-')), 'schema.d.ts');
  execFileSync(join(root, 'web/node_modules/.bin/openapi-typescript'), [join(root, 'docs/api/sexton.json'), '-o', fresh]);
  expect(readFileSync(join(root, 'web/shared/api/schema.d.ts'), 'utf8'), 'Run ./sexton api, and commit what it writes.').toBe(
    readFileSync(fresh, 'utf8'),
  );
});
