// The mailbox's page: its mail, newest first.

const list = document.getElementById('list');

new EventSource('/changes').onmessage = (event) => {
  const mails = JSON.parse(event.data);
  if (mails.length === 0) {
    list.textContent = 'No mail has come.';
    return;
  }
  list.replaceChildren(
    ...mails.map((mail) => {
      const card = document.createElement('article');
      card.className = mail.replyTo ? 'mail reply' : 'mail';
      card.append(
        Object.assign(document.createElement('b'), { textContent: mail.subject }),
        Object.assign(document.createElement('small'), { textContent: `${mail.from} to ${mail.to}` }),
        Object.assign(document.createElement('p'), { textContent: mail.text }),
      );
      for (let i = 0; i < mail.pictures; i++)
        card.append(
          Object.assign(document.createElement('img'), { src: `/mails/${mail.index}/pictures/${i}`, alt: 'The picture of this mail' }),
        );
      return card;
    }),
  );
};
