// Every text that a person reads, in all packages, goes by the same word list, and labels are short.

import ts from 'typescript';
import { banned, exceptions, labelLength, maxLabelWords } from '../testing/plain';
import { filesUnder, packages, parsed } from '../testing/sources';

type Text = { readonly place: string; readonly text: string; readonly label: boolean };

/** Attributes that hold a label: a noun or a command, of at most four words. */
const labels: Readonly<Record<string, readonly string[]>> = {
  label: [],
  words: ['Button', 'Title', 'Footer'],
  title: ['Sheet'],
};

function textsIn(file: string): Text[] {
  const source = parsed(file);
  const texts: Text[] = [];
  const visit = (node: ts.Node, isLabel: boolean): void => {
    if (ts.isImportDeclaration(node) || ts.isExportDeclaration(node) || ts.isLiteralTypeNode(node)) return;
    if (ts.isJsxAttribute(node)) {
      const tags = labels[node.name.getText()];
      const tag = node.parent.parent.tagName.getText();
      const own = tags !== undefined && (tags.length === 0 || tags.includes(tag));
      return ts.forEachChild(node, (child) => visit(child, own));
    }
    const text = textOf(node) ?? (isLabel ? ownText(file, node) : undefined);
    // What is a name or a value has no space in it.
    if (text !== undefined && /[a-z] [a-z]/i.test(text)) {
      const line = source.getLineAndCharacterOfPosition(node.getStart()).line + 1;
      texts.push({ place: `${file}:${line}`, text, label: isLabel });
    }
    ts.forEachChild(node, (child) => visit(child, isLabel && !ts.isCallExpression(node)));
  };
  visit(source, false);
  return texts;
}

const wordsFiles = new Map<string, ReadonlyMap<string, string>>();
/** The texts of a feature, by their names in its `words.ts`. */
function textsOfFeature(file: string): ReadonlyMap<string, string> {
  const words = file.replace(/^(client\/features\/[^/]+)\/.*/, '$1/words.ts');
  if (!wordsFiles.has(words)) {
    const found = new Map<string, string>();
    const visit = (node: ts.Node): void => {
      if (ts.isPropertyAssignment(node)) {
        const value = ts.isArrowFunction(node.initializer) ? node.initializer.body : node.initializer;
        const text = textOf(value);
        if (text !== undefined) found.set(node.name.getText(), text);
      }
      ts.forEachChild(node, visit);
    };
    visit(parsed(words));
    wordsFiles.set(words, found);
  }
  return wordsFiles.get(words)!;
}

/** What `texts.name` or `texts.name(…)` says. */
function ownText(file: string, node: ts.Node): string | undefined {
  const named = ts.isCallExpression(node) ? node.expression : node;
  if (!ts.isPropertyAccessExpression(named) || named.expression.getText() !== 'texts') return undefined;
  return textsOfFeature(file).get(named.name.text);
}

/** The words of a node, `…` for what is filled in. */
function textOf(node: ts.Node): string | undefined {
  if (ts.isStringLiteral(node) || ts.isNoSubstitutionTemplateLiteral(node)) return node.text;
  if (ts.isJsxText(node)) return node.text.replace(/\s+/g, ' ').trim();
  if (ts.isTemplateExpression(node)) return node.head.text + node.templateSpans.map((s) => `…${s.literal.text}`).join('');
  return undefined;
}

const texts = packages.flatMap(filesUnder).flatMap(textsIn);

test('texts are found in every package', () => {
  for (const folder of packages) expect([folder, texts.some((t) => t.place.startsWith(folder))]).toEqual([folder, true]);
  expect(texts.length).toBeGreaterThan(2000);
});

test('no text has a word for which a plainer one is used', () => {
  const wrong = texts.filter((t) => banned.test(t.text) && !exceptions.some(([place]) => place.test(t.place)));
  expect(wrong.map((t) => `${t.place} ${t.text}`)).toEqual([]);
});

test('the labels of screens are found where their texts are', () => {
  expect(texts.filter((t) => t.label && t.place.startsWith('client/features')).length).toBeGreaterThan(250);
});

test('a label has at most four words beside what is filled in', () => {
  const wrong = texts.filter((t) => t.label && labelLength(t.text) > maxLabelWords);
  expect(wrong.map((t) => `${t.place} ${t.text}`)).toEqual([]);
});
