// XML from outside, as a small tree. Document types are refused, so that there are no entities to blow up; depth and number are limited.

import { SaxesParser } from 'saxes';
import { checkLength, maxDepth, refuse } from './limits';

export type Element = {
  /** Without its prefix; the namespace stands in `space`. */
  readonly name: string;
  readonly space: string;
  /** By name without prefix. */
  readonly attributes: Readonly<Record<string, string>>;
  readonly children: Element[];
  text: string;
  /** Where it begins, for messages. */
  readonly place: string;
};

const maxElements = 10_000;

/** @throws Problem 'bad-input' with line and column, for what is not well formed, has a document type, or is too large or deep */
export function readXml(text: string): Element {
  checkLength(text);
  const parser = new SaxesParser({ xmlns: true, position: true });
  const open: Element[] = [];
  let root: Element | undefined;
  let count = 0;
  const here = () => `line ${parser.line}, column ${parser.columnIndex + 1}`;
  parser.on('doctype', () => refuse(here(), 'has a document type', 'XML without one'));
  parser.on('error', (error) => refuse(here(), error.message.replace(/^\d+:\d+: /, 'is not well formed: '), 'well-formed XML'));
  parser.on('opentag', (tag) => {
    if (open.length >= maxDepth) refuse(here(), `is more than ${maxDepth} levels deep`, `at most ${maxDepth}`);
    if (++count > maxElements) refuse(here(), `has more than ${maxElements} elements`, `at most ${maxElements}`);
    const attributes: Record<string, string> = {};
    for (const a of Object.values(tag.attributes)) attributes[a.local] = a.value;
    const element: Element = { name: tag.local, space: tag.uri, attributes, children: [], text: '', place: here() };
    open.at(-1)?.children.push(element);
    root ??= element;
    open.push(element);
  });
  parser.on('closetag', () => void open.pop());
  const gather = (piece: string) => {
    const element = open.at(-1);
    if (element) element.text += piece;
  };
  parser.on('text', gather);
  parser.on('cdata', gather);
  parser.write(text).close();
  return root ?? refuse('', 'is empty', 'an XML document');
}

export const childrenOf = (element: Element, name: string): Element[] => element.children.filter((c) => c.name === name);
export const childOf = (element: Element | undefined, ...path: readonly string[]): Element | undefined =>
  path.reduce<Element | undefined>((e, name) => e?.children.find((c) => c.name === name), element);

/** Every element of a name, at any depth, outermost first. */
export function allOf(element: Element, name: string): Element[] {
  const own = element.name === name ? [element] : [];
  return [...own, ...element.children.flatMap((c) => allOf(c, name))];
}

/** A number in an attribute. @throws Problem 'bad-input' where it is none */
export function numberIn(element: Element, attribute: string, fallback?: number): number {
  const text = element.attributes[attribute];
  if (text === undefined && fallback !== undefined) return fallback;
  const value = text === undefined || text.trim() === '' ? NaN : Number(text);
  if (!Number.isFinite(value)) refuse(element.place, `${element.name} has ${attribute} ${JSON.stringify(text ?? '')}`, 'a number');
  return value;
}

const signs: Readonly<Record<string, string>> = { '&': '&amp;', '<': '&lt;', '>': '&gt;', '"': '&quot;' };
/** Text that can stand in an element or an attribute; signs that XML cannot hold are left out. */
export const xmlText = (text: string): string =>
  text.replace(/[\u0000-\u0008\u000b\u000c\u000e-\u001f\ufffe\uffff]/g, '').replace(/[&<>"]/g, (c) => signs[c]!);
