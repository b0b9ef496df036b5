import {
  columnBlocks,
  PAPER,
  type Page,
  type PageBlock,
  type PageColumn,
  type PageRow,
  type PageTable,
  type TextRun,
} from '@margin-lens/core';
import { drawChart } from './draw-chart';

/** Pages to be read in a browser. */
export interface HtmlToWrite {
  title: string;
  pages: readonly { id: string; page: Page }[];
  /** At the foot of it all. */
  says: string;
}

const CHART_WIDTH = 920;

/** Pages as one HTML file that needs nothing beside itself: no scripts, charts as vectors, links from the contents. */
export async function writeHtml({ title, pages, says }: HtmlToWrite): Promise<Buffer> {
  const sections: string[] = [];
  for (const { id, page } of pages) {
    const blocks: string[] = [];
    for (const block of page.blocks) blocks.push(await blockHtml(block));
    const isCover = page.blocks[0]?.kind === 'cover';
    const head = isCover
      ? ''
      : `<h1>${escaped(page.title)}</h1>${page.subtitle ? `<p class="second">${escaped(page.subtitle)}</p>` : ''}`;
    sections.push(`<section id="${escaped(id)}">${head}${blocks.join('\n')}</section>`);
  }
  return Buffer.from(
    `<!doctype html>\n<html lang="en"><head><meta charset="utf-8"><meta name="viewport" content="width=device-width">
<title>${escaped(title)}</title><style>${STYLE}</style></head>\n<body>${sections.join('\n')}\n<footer>${escaped(says)}</footer></body></html>\n`,
  );
}

async function blockHtml(block: PageBlock): Promise<string> {
  switch (block.kind) {
    case 'table':
      return tableHtml(block.table);
    case 'chart': {
      const svg = await drawChart(block.option, { width: CHART_WIDTH, height: block.height });
      const words = [
        block.title && `<h2>${escaped(block.title)}</h2>`,
        block.words && `<p class="second">${escaped(block.words)}</p>`,
      ];
      return `<figure>${words.filter(Boolean).join('')}${svg}</figure>`;
    }
    case 'heading':
      return `<h2>${escaped(block.text)}</h2>`;
    case 'text':
      return `<p class="second">${escaped(block.text)}</p>`;
    case 'paragraph': {
      const { mark, depth = 0, runs } = block;
      const before = mark ? `<span class="mark">${escaped(mark)}</span>` : '';
      return `<p${mark === undefined ? '' : ` class="item" style="margin-left:${1.4 * (depth + 1)}em"`}>${before}${runs.map(runHtml).join('')}</p>`;
    }
    case 'cover':
      return `<div class="cover"><h1>${escaped(block.title)}</h1>${block.lines.map((line) => `<p>${escaped(line)}</p>`).join('')}</div>`;
    case 'contents':
      return `<nav>${block.entries
        .map(
          ({ page, title, isSection }) =>
            `<a${isSection ? ' class="strong"' : ''} href="#${escaped(page)}">${escaped(title)}</a>`,
        )
        .join('')}</nav>`;
    case 'tiles':
      return `<div class="tiles">${block.tiles
        .map(
          ({ label, cell, note, noteFavour = '' }) =>
            `<div><span class="second">${escaped(label)}</span><b class="${cell.favour ?? ''}">${escaped(cell.text)}</b><span class="second ${noteFavour}">${escaped(note)}</span></div>`,
        )
        .join('')}</div>`;
  }
}

function tableHtml({ labelHead, columns, rows }: PageTable): string {
  const names = columnBlocks(columns)
    .map(({ label, columns: span }) => `<th scope="colgroup" colspan="${span}">${escaped(label)}</th>`)
    .join('');
  const heads = columns.map((column) => `<th scope="col">${escaped(column.label)}${notesOf(column)}</th>`).join('');
  return `<table><thead>${names ? `<tr class="blocks"><td></td>${names}</tr>` : ''}<tr><th scope="col">${escaped(labelHead)}</th>${heads}</tr></thead><tbody>${rows
    .map((row) => rowHtml(row, columns.length))
    .join('')}</tbody></table>`;
}

const notesOf = ({ note, dates, isDated, flags }: PageColumn): string =>
  [note, isDated ? '' : dates, ...flags]
    .filter(Boolean)
    .map((text) => `<small>${escaped(text)}</small>`)
    .join('');

function rowHtml({ style, label, depth, cells, kind }: PageRow, columns: number): string {
  const span = cells.length === 0 ? ` colspan="${columns + 1}"` : '';
  const figures = cells.map(({ text, favour = '' }) => `<td class="${favour}">${escaped(text)}</td>`).join('');
  return `<tr class="${style} ${kind}"><th scope="row"${span} style="padding-left:${0.8 * depth}em">${escaped(label)}</th>${figures}</tr>`;
}

const runHtml = ({ text, isStrong, isSlanted, hasMoved }: TextRun): string => {
  const plain = escaped(text).replace(/\n/g, '<br>');
  const strong = isStrong ? `<b>${plain}</b>` : plain;
  return isSlanted ? `<i${hasMoved ? ' class="second"' : ''}>${strong}</i>` : strong;
};

const ENTITIES: Record<string, string> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;', "'": '&#39;' };
const escaped = (text: string): string => text.replace(/[&<>"']/g, (letter) => ENTITIES[letter]!);

const STYLE = `
body{max-width:980px;margin:0 auto;padding:24px;font:14px/1.4 'Source Sans 3',system-ui,sans-serif;color:#${PAPER.ink};background:#${PAPER.sheet}}
section{padding:24px 0 32px;border-bottom:1px solid #${PAPER.rule}}
h1{font:600 24px/1.2 'Source Serif 4',Georgia,serif;margin:0 0 4px}h2{font:600 17px/1.2 'Source Serif 4',Georgia,serif;margin:20px 0 6px}
.second,footer{color:#${PAPER.second};font-size:12px}p{margin:4px 0}.item{text-indent:-1em}.mark{display:inline-block;min-width:1em;text-indent:0}
.cover{padding:120px 0}.cover h1{font-size:40px}.cover p{font-size:16px;color:#${PAPER.second}}
nav a{display:block;padding:5px 0 5px 16px;border-bottom:1px solid #${PAPER.rule};color:inherit;text-decoration:none}nav a.strong{font-weight:600;padding-left:0}
table{border-collapse:collapse;width:100%;margin:12px 0;font-size:13px}th{font-weight:400;text-align:left}thead th{font-weight:600;vertical-align:bottom}
td,thead th+th{text-align:right;white-space:nowrap;padding:2px 0 2px 12px;font-variant-numeric:tabular-nums}.blocks th{text-align:center!important}
small{display:block;font-weight:400;color:#${PAPER.second};font-size:10px;white-space:normal}tbody tr{border-top:1px solid #${PAPER.rule}}tbody tr:first-child{border-top:1px solid #${PAPER.ink}}
.result,.total,.heading,.result th,.total th,.heading th{font-weight:600}.ratio,.ratio th{font-style:italic}
.result.figures{border-top:1px solid #${PAPER.ink};border-bottom:2px solid #${PAPER.ink}}.favourable{color:#${PAPER.favourable}}.adverse{color:#${PAPER.adverse}}
.tiles{display:grid;grid-template-columns:repeat(auto-fill,minmax(190px,1fr));gap:20px;margin:16px 0}.tiles div{border-top:1px solid #${PAPER.ink};padding-top:6px;display:grid}
.tiles b{font:600 26px/1.3 'Source Serif 4',Georgia,serif}figure{margin:12px 0}svg{max-width:100%;height:auto}footer{padding:16px 0}
@media print{section{break-before:page;border:0}}`;
