import { fireEvent, screen, waitFor } from '@testing-library/react-native';
import { TextInput as mockField } from 'react-native';
import { answering, draw, site } from '../../testing/draw';
import type { EditorProps } from './CodeEditor';
import { SiteFileEditor } from './SiteFileEditor';

// CodeMirror needs a document; it is driven in Chromium.
jest.mock('./CodeEditor', () => {
  const Field = mockField;
  return { __esModule: true, default: ({ value, change }: EditorProps) => <Field testID="editor" value={value} onChangeText={change} /> };
});

const versions = [
  { version: 7, at: 0, by: 'Rowan', what: 'changed the schedule Opening hours' },
  { version: 6, at: 0, by: 'Ives', what: 'replaced the site file' },
];

async function open(answers: Parameters<typeof answering>[0] = {}) {
  const sent = answering({
    'GET /api/site/file': { body: { text: 'nibber: 2\n', version: 7 } },
    'POST /api/site/check': { body: { problems: [], changes: ['Mode Night added'] } },
    'PUT /api/site/file': { body: { text: 'nibber: 2\nmodes: []\n', version: 8 } },
    'GET /api/site/versions': { body: versions },
    'GET /api/site/versions/6': { body: { text: 'nibber: 2 # six\n', version: 6 } },
    ...answers,
  });
  await draw(<SiteFileEditor site={site} />).drawn;
  await screen.findByTestId('editor');
  return sent;
}
const type = (text: string) => fireEvent.changeText(screen.getByTestId('editor'), text);
const text = () => screen.getByTestId('editor').props.value as string;

test('what it changes is said before it is saved, with the version that it was made from', async () => {
  const sent = await open();
  expect(screen.queryByTestId('save-site-text')).toBeNull();
  await type('nibber: 2\nmodes: []\n');
  await screen.findByText('Mode Night added');
  await fireEvent.press(screen.getByTestId('save-site-text'));
  await waitFor(() => expect(sent.find((s) => s.method === 'PUT')?.body).toEqual({ text: 'nibber: 2\nmodes: []\n' }));
});

test('what is wrong is said with its line, and it cannot be saved', async () => {
  await open({ 'POST /api/site/check': { body: { problems: [{ line: 3, words: 'modes: is no list' }], changes: [] } } });
  await type('nibber: 3\n');
  await screen.findByText('Line 3: modes: is no list');
  expect(screen.getByTestId('save-site-text')).toBeDisabled();
});

test('written otherwise it says that it means the same, and may be saved', async () => {
  await open({ 'POST /api/site/check': { body: { problems: [], changes: [] } } });
  await type('# a comment\nnibber: 2\n');
  await screen.findByText('Same meaning, only formatted differently');
  expect(screen.getByTestId('save-site-text')).toBeEnabled();
});

test('an earlier version comes into the editor, and is let go of again after a question', async () => {
  await open();
  await fireEvent.press(screen.getByTestId('site-versions'));
  await fireEvent.press(await screen.findByTestId('version-6'));
  await waitFor(() => expect(text()).toBe('nibber: 2 # six\n'));
  await fireEvent.press(await screen.findByTestId('leave-site-text'));
  expect(text()).toBe('nibber: 2 # six\n');
  await fireEvent.press(screen.getByTestId('leave-go'));
  await waitFor(() => expect(text()).toBe('nibber: 2\n'));
});

test('a save that is refused says why, and the text stays', async () => {
  const error = { code: 'conflict', message: 'Tess changed this meanwhile.', hint: 'Look at what stands now.', problems: [] };
  await open({ 'PUT /api/site/file': { status: 409, body: { error } } });
  await type('nibber: 2\nmodes: []\n');
  await screen.findByText('Mode Night added');
  await fireEvent.press(screen.getByTestId('save-site-text'));
  await screen.findByText('Tess changed this meanwhile. Look at what stands now.');
  expect(text()).toBe('nibber: 2\nmodes: []\n');
});
