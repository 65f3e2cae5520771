// Settings of this device alone.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { remembered } from '../api/storage';

export type LightSetting = 'system' | 'paper' | 'lamp';

export const settings = createSlice({
  name: 'settings',
  initialState: (): { light: LightSetting } => ({ light: 'system', ...remembered<{ light: LightSetting }>('settings') }),
  reducers: {
    setLight: (state, { payload }: PayloadAction<LightSetting>) => {
      state.light = payload;
    },
  },
});

export const { setLight } = settings.actions;
