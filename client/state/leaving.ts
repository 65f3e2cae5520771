// What happens when a sign-in ends: by signing out everything held here is let go of; where it ended by itself, drafts stay for whoever
// signs in again, and the page stays where it was.

import { createAction } from '@reduxjs/toolkit';

/** The person has signed out: drafts and what was seen go. */
export const signedOut = createAction('leaving/signedOut');
