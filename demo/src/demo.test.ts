import { createHash } from 'node:crypto';
import { mkdtempSync, readdirSync, readFileSync } from 'node:fs';
import os from 'node:os';
import path from 'node:path';
import { RESOURCES } from '@margin-lens/core';
import Papa from 'papaparse';
import { makePackage } from './make-package';

const folder = () => mkdtempSync(path.join(os.tmpdir(), 'margin-lens-demo-'));

function digest(of: string): string {
  const hash = createHash('sha256');
  const files = readdirSync(of, { recursive: true, withFileTypes: true }).filter((entry) => entry.isFile());
  for (const file of files.map((entry) => path.join(entry.parentPath, entry.name)).sort())
    hash.update(readFileSync(file));
  return hash.digest('hex');
}

describe('makePackage', () => {
  it('gives the same bytes for the same arguments, and holds the stories of the scenario', async () => {
    const [first, second] = [folder(), folder()];
    const { lines } = await makePackage(first);
    await makePackage(second);
    expect(digest(first)).toBe(digest(second));
    expect(lines).toBeGreaterThan(55_000);

    // there is something of everything that a package can hold
    for (const { file } of RESOURCES) {
      const rows = readFileSync(path.join(first, file), 'utf8').trimEnd().split('\n');
      expect([file, rows.length > 1]).toEqual([file, true]);
    }

    const journals = readFileSync(path.join(first, 'journals.csv'), 'utf8').split('\n');
    const find = (...words: string[]) => journals.filter((line) => words.every((word) => line.includes(word)));
    // a new account in August 2026 and not before
    expect(find(',6510,').every((line) => line.includes('2026-08-'))).toBe(true);
    expect(find(',6510,')).toHaveLength(3);
    // a credit note for tiles in the department of design
    expect(find('broken pallets', ',tiles,')[0]).toContain(',design,');
    // the late invoice stands at the seller only
    expect(find('Recharge of the autumn campaign').map((line) => line.slice(0, 3))).toEqual(['LMT', 'LMT']);
    // every settlement of a document stands against one that was open, and no more of it is settled than there was
    const { data: posted } = Papa.parse<Record<string, string>>(journals.join('\n'), {
      header: true,
      skipEmptyLines: true,
    });
    const open = new Map<string, number>();
    const unmatched: string[] = [];
    for (const { entity, account, partner, document, debit, credit, due, settles } of posted) {
      if (!due && !settles) continue;
      const amount = Math.round(100 * (Number(debit) - Number(credit)));
      const item = [entity, account, partner, settles || document].join(' ');
      const [before, after] = [open.get(item) ?? 0, (open.get(item) ?? 0) + amount];
      if (settles && (before === 0 || Math.abs(after) > Math.abs(before))) unmatched.push(item);
      open.set(item, after);
    }
    expect(unmatched).toEqual([]);
    expect([...open.values()].filter((amount) => amount === 0).length).toBeGreaterThan(3_000);
    // actuals and no plan for the design studio's salaries in FY27
    const figures = readFileSync(path.join(first, 'figures.csv'), 'utf8').split('\n');
    expect(figures.some((line) => line.startsWith('PLAN_FY27,LMS,7600,'))).toBe(false);
    expect(figures.some((line) => line.startsWith('PLAN_FY26,LMS,7600,'))).toBe(true);
    expect(find('LMS,', ',7600,', '2026-0').length).toBeGreaterThan(0);
  });

  it('makes longer ledgers of the same shape', async () => {
    const { lines } = await makePackage(folder(), 140_000);
    expect(lines).toBeGreaterThan(125_000);
    expect(lines).toBeLessThan(155_000);
  });
});
