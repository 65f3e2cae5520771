// The stage's page: every button is one direction to the stage.

const byId = (id) => document.getElementById(id);
let state;
let who = 'ada';

async function direct(path, body, words) {
  const answer = await fetch(path, { method: 'POST', headers: { 'content-type': 'application/json' }, body: JSON.stringify(body) });
  byId('said').textContent = answer.ok ? words : (await answer.json()).error;
  await refresh();
}

function choices(holder, entries) {
  holder.replaceChildren(
    ...entries.map(({ words, pressed, main, act, id }) => {
      const button = document.createElement('button');
      button.textContent = words;
      if (id) button.id = id;
      if (pressed !== undefined) button.setAttribute('aria-pressed', String(pressed));
      if (main) button.className = 'main';
      button.onclick = act;
      return button;
    }),
  );
}

const personLike = (figure) => state.cast[figure] === 'person';
const fits = (walk) => (state.cast[who] === 'car' ? walk.startsWith('drive') : !walk.startsWith('drive'));

function draw() {
  byId('time').textContent = state.time;
  choices(
    byId('who'),
    Object.keys(state.cast).map((figure) => ({
      words: figure.replace('-', ' ') + (personLike(figure) ? ' (person)' : ''),
      pressed: figure === who,
      id: `who-${figure}`,
      act: () => ((who = figure), draw()),
    })),
  );
  choices(
    byId('walks'),
    Object.entries(state.walks)
      .filter(([walk]) => fits(walk))
      .map(([walk, words]) => ({
        words,
        main: walk === 'lane-to-yard',
        id: `walk-${walk}`,
        act: () => direct('/directions', { kind: 'send', figure: who, walk }, `${who} goes ${words}.`),
      })),
  );
  choices(
    byId('light'),
    ['day', 'dusk', 'night'].map((light) => ({
      words: light === 'night' ? 'night (infrared)' : light,
      pressed: state.light === light,
      id: `light-${light}`,
      act: () => direct('/directions', { kind: 'light', light }, `It is ${light}.`),
    })),
  );
  choices(
    byId('clock'),
    [
      ['evening', '20:40'],
      ['morning', '11:00'],
      ['night', '02:15'],
    ].map(([name, time]) => ({
      words: `${time} (${name})`,
      id: `clock-${name}`,
      act: () => direct('/clock', { time }, `The clock here shows ${time}.`),
    })),
  );
  choices(
    byId('things'),
    Object.entries(state.things).map(([thing, { words, there }]) => ({
      words,
      pressed: there,
      id: `thing-${thing}`,
      act: () => direct('/directions', { kind: 'thing', thing, there: !there }, there ? `No more ${words}.` : `There is ${words}.`),
    })),
  );
  choices(
    byId('canoes'),
    [0, state.canoes.most - 4, state.canoes.most - 1, state.canoes.most].map((home) => ({
      words: home === 0 ? 'none drawn' : `${home} at home`,
      pressed: state.canoes.home === home,
      id: `canoes-${home}`,
      act: () => direct('/directions', { kind: 'canoes', home }, home === 0 ? 'No canoes are drawn.' : `${home} canoes are at home.`),
    })),
  );
  choices(byId('life'), [
    { words: 'come and go', pressed: state.life, act: () => direct('/directions', { kind: 'life', on: true }, 'Passers-by come and go.') },
    {
      words: 'none',
      pressed: !state.life,
      id: 'life-off',
      act: () => direct('/directions', { kind: 'life', on: false }, 'No passers-by.'),
    },
  ]);
  byId('devices').replaceChildren(
    ...state.devices.map(({ name, model, user, password, relays, restarts }) => {
      const line = document.createElement('p');
      const on = Object.entries(relays)
        .filter(([, isOn]) => isOn)
        .map(([relay]) => `${relay} is on`);
      const said = [`${name}: ${model}, sign-in ${user} / ${password}`, ...on, ...(restarts ? [`restarted ${restarts} times`] : [])];
      line.textContent = said.join('; ');
      return line;
    }),
  );
  byId('faults').replaceChildren(
    ...Object.entries(state.faults).map(([part, { now, all }]) => {
      const row = document.createElement('div');
      row.className = 'choices';
      row.style.marginBottom = '8px';
      const label = document.createElement('span');
      label.textContent = part;
      label.style.minWidth = '9em';
      const holder = document.createElement('div');
      holder.className = 'choices';
      choices(
        holder,
        all.map((fault) => ({
          words: fault === 'none' ? 'works' : fault,
          pressed: now === fault,
          act: () => direct('/faults', { part, fault }, `${part}: ${fault}`),
        })),
      );
      row.append(label, holder);
      return row;
    }),
  );
}

async function refresh() {
  state = await (await fetch('/state')).json();
  draw();
}

async function porch(path, body) {
  const answer = await fetch(`/paired/porch/${path}`, {
    method: 'POST',
    headers: { 'content-type': 'application/json' },
    body: JSON.stringify(body),
  });
  const { error, status } = await answer.json();
  byId('porch-said').textContent =
    error ?? (status === undefined ? 'It sends there now.' : status ? `Answered ${status}.` : 'Nothing answered.');
}
byId('porch').onsubmit = (event) => {
  event.preventDefault();
  void porch('settings', { sendTo: byId('porch-address').value });
};
byId('porch-try').onclick = () => void porch('try', {});

async function start() {
  await refresh();
  byId('views').innerHTML = state.cameras
    .map((c) => `<figure><img src="/cameras/${c}/low.mjpg" alt="what ${c} sees" /><figcaption>${c}</figcaption></figure>`)
    .join('');
  setInterval(async () => {
    const { time } = await (await fetch('/state')).json();
    byId('time').textContent = time;
  }, 5000);
}

void start();
