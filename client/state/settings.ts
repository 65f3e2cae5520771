// Settings of this device alone.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { remembered } from './storage';

const lights = ['system', 'light', 'dark'] as const;
export type LightSetting = (typeof lights)[number];

export const settings = createSlice({
  name: 'settings',
  initialState: (): { light: LightSetting } => {
    const light = remembered<{ light: LightSetting }>('settings')?.light;
    // Earlier versions had other names.
    return { light: light && lights.includes(light) ? light : 'system' };
  },
  reducers: {
    setLight: (state, { payload }: PayloadAction<LightSetting>) => {
      state.light = payload;
    },
  },
});

export const { setLight } = settings.actions;
