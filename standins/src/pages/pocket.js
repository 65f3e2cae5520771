// The pocket's page: what the stand-in phone shows.

const list = document.getElementById('list');

function draw({ notifications, owner }) {
  document.getElementById('owner').textContent = owner ? `${owner}’s stand-in phone` : 'Not signed up anywhere yet.';
  document.getElementById('clear').hidden = notifications.length === 0;
  if (notifications.length === 0) {
    list.innerHTML = '<div class="quiet">Quiet. Nothing has come.</div>';
    return;
  }
  list.replaceChildren(
    ...notifications.map((n) => {
      const card = document.createElement('a');
      card.className = 'notice';
      card.href = n.open;
      card.dataset.id = n.id;
      card.dataset.filled = String(n.filledIn);
      if (n.picture) card.append(Object.assign(document.createElement('img'), { src: n.picture, alt: `Picture: ${n.title}` }));
      const words = document.createElement('div');
      words.append(
        Object.assign(document.createElement('time'), { textContent: n.when, dateTime: n.at }),
        Object.assign(document.createElement('b'), { textContent: n.title }),
        Object.assign(document.createElement('span'), { textContent: n.body }),
      );
      card.append(words);
      return card;
    }),
  );
}

new EventSource('/notifications').onmessage = (event) => draw(JSON.parse(event.data));
document.getElementById('clear').onclick = () => fetch('/notifications', { method: 'DELETE' });
