import { readFileSync } from 'node:fs';
import path from 'node:path';
import { Marked } from 'marked';
import { gfmHeadingId } from 'marked-gfm-heading-id';
import { sitePages } from '../site/pages';
import { helpFor, helpSections } from './help';

const guide = new Marked(gfmHeadingId()).parse(readFileSync(path.join(__dirname, '../../../docs/guide.md'), 'utf8')) as string;
const ids = [...guide.matchAll(/<h\d id="([^"]+)"/g)].map(([, id]) => id);

test('every section that a page leads to is in the guide', () => {
  expect(ids.length).toBeGreaterThan(20);
  expect(helpSections.filter((section) => !ids.includes(section))).toEqual([]);
});

test('every page has a section; one that is unknown begins at the top', () => {
  const pages = [
    '/',
    '/events',
    '/events/e1',
    '/ask',
    '/why',
    '/cameras',
    '/cameras/new',
    '/cameras/yard',
    '/rules',
    '/rules/walk',
    '/first/rule',
    '/join',
    ...sitePages.map((p) => `/site/${p.id}`),
  ];
  expect(pages.filter((page) => !helpFor(page).includes('#'))).toEqual([]);
  expect(helpFor('/nowhere')).toBe('/guide.html');
});
