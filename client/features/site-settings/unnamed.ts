/** What an empty site is called. */
export const unnamed = 'New site';
