// The password once more, where the server asks for it before it changes who comes in or what is let in: what was asked for waits meanwhile.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { signedOut } from './leaving';

export const confirming = createSlice({
  name: 'confirming',
  initialState: { isAsked: false },
  reducers: {
    asked: (state, { payload }: PayloadAction<boolean>) => void (state.isAsked = payload),
  },
  extraReducers: (build) => build.addCase(signedOut, () => ({ isAsked: false })),
});

let waiting: ((isConfirmed: boolean) => void)[] = [];

/** Asks for it, once for all that waits. @returns whether it was given */
export function confirmed(dispatch: (action: ReturnType<typeof confirming.actions.asked>) => unknown): Promise<boolean> {
  dispatch(confirming.actions.asked(true));
  return new Promise((resolve) => waiting.push(resolve));
}

/** Lets what waits go on, or ends it. */
export function answerConfirming(dispatch: Parameters<typeof confirmed>[0], isConfirmed: boolean): void {
  dispatch(confirming.actions.asked(false));
  const all = waiting;
  waiting = [];
  all.forEach((go) => go(isConfirmed));
}
