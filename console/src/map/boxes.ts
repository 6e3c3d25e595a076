import type { PageInfo, PageLinkInfo } from '../api/schema';
import { grouped } from '../parts/grouped';
import { counted } from '../parts/words';

/** What is drawn: a page, or all pages of a record; with what it leads to and what leads to it. */
export type Box = { name: string; note: string; leadsTo: Lead[]; ledFrom: Lead[] };
export type Lead = { to: string; label: string };

/** The pages that show no record: the text pages. */
export const noRecord = 'no record';

export const recordOf = (page: PageInfo) => page.record || noRecord;

/** Each page as a box; a link is told by the field that fills the parameter. */
export function pageBoxes(pages: PageInfo[]): Box[] {
  const leads = (links: PageLinkInfo[]) => links.map((link) => ({ to: link.page, label: passesOf(link) }));
  return pages.map((page) => ({
    name: page.name,
    note: `${page.kind} ${page.path}`,
    leadsTo: leads(page.links),
    ledFrom: leads(page.linkedFrom),
  }));
}

/** The pages of each record as one box; links between two of them are told by their number. */
export function recordBoxes(pages: PageInfo[]): Box[] {
  const byName = new Map(pages.map((page) => [page.name, recordOf(page)]));
  const groups = grouped(pages, recordOf);
  const leads = (own: string, links: PageLinkInfo[]): Lead[] => {
    const others = links.map((link) => byName.get(link.page)).filter((record) => record !== undefined && record !== own);
    return [...grouped(others as string[], (record) => record)].map(([to, all]) => ({
      to,
      label: counted(all.length, 'link'),
    }));
  };
  return [...groups].map(([name, own]) => ({
    name,
    note: counted(own.length, 'page'),
    leadsTo: leads(
      name,
      own.flatMap((page) => page.links),
    ),
    ledFrom: leads(
      name,
      own.flatMap((page) => page.linkedFrom),
    ),
  }));
}

export const passesOf = (link: PageLinkInfo) => link.passes.map((pass) => `${pass.field} → ${pass.parameter}`).join(', ');
