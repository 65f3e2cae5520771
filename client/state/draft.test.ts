import { draftsOf, type Drafts } from './draft';

const { begin, change, draftOf, end, goOn, redo, undo, reducer } = draftsOf<readonly number[]>('drawing', [], Array.isArray);
type State = Drafts<readonly number[]>;
const draft = (s: State) => draftOf(s, 'c')!;
const to = (...content: number[]) => change({ content });

const begun = reducer(undefined, begin({ of: 'c', version: 1, content: [0] }));
const twice = reducer(reducer(begun, to(1)), to(2));

test('every change can be undone and done again; a new one ends what was to come', () => {
  expect([draft(begun).canUndo, draftOf(begun, 'another')]).toEqual([false, null]);
  const back = reducer(twice, undo());
  expect([draft(back).content, draft(reducer(back, undo())).content, draft(reducer(back, redo())).content]).toEqual([[1], [0], [2]]);
  expect(draft(reducer(back, to(7))).canRedo).toBe(false);
  expect(draft(reducer(reducer(begun, undo()), redo()))).toEqual(draft(begun));
});

test('the steps of one drag are undone together, those of the next by themselves', () => {
  const drag = (s: State, by: string, ...steps: number[]) =>
    steps.reduce((state, v) => reducer(state, change({ content: [v], drag: by })), s);
  const dragged = drag(drag(begun, 'first', 1, 2, 3), 'second', 4, 5);
  expect(draft(dragged).content).toEqual([5]);
  const back = reducer(dragged, undo());
  expect([draft(back).content, draft(reducer(back, undo())).content]).toEqual([[3], [0]]);
});

test('going on upon another version undoes nothing', () => {
  const later = reducer(twice, goOn({ version: 2, content: [9] }));
  expect([draft(later).from, draft(later).content, draft(reducer(later, undo())).content]).toEqual([
    { version: 2, content: [9] },
    [2],
    [1],
  ]);
});

test('a hundred steps back are held, and a draft that has ended is gone', () => {
  const many = Array.from({ length: 150 }).reduce<State>((s, _v, i) => reducer(s, to(i)), begun);
  expect(many.history.past.length).toBe(100);
  expect(draftOf(reducer(twice, end()), 'c')).toBeNull();
});

test('what was remembered is gone on with, unless it is of no use any more', () => {
  const remember = (state: unknown) => ((globalThis as { localStorage?: unknown }).localStorage = { getItem: () => JSON.stringify(state) });
  const start = (state: unknown) => (remember(state), reducer(undefined, { type: 'anything' }));
  expect(draft(start(twice)).content).toEqual([2]);
  expect(start({ ...twice, history: { ...twice.history, present: 'a drawing of old' } }).begun).toBeNull();
  expect(start({ camera: 'c', past: [] }).begun).toBeNull();
  delete (globalThis as { localStorage?: unknown }).localStorage;
});
