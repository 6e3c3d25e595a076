import type { SiteInfo } from '../api/schema';

/** Changes with everything that the screens show of the site, and only then: what they load is kept under it. */
export function stateOf(site: SiteInfo): string {
  return `${site.revision}:${site.findings}:${site.behind}:${site.waiting}`;
}
