// Settings of this device alone.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { remembered } from './storage';

const lights = ['system', 'light', 'dark'] as const;
export type LightSetting = (typeof lights)[number];

/** `isGuided`: whoever made the place is led from step to step. */
type DeviceSettings = { light: LightSetting; isGuided: boolean };

export const settings = createSlice({
  name: 'settings',
  initialState: (): DeviceSettings => {
    const { light, isGuided = false } = remembered<Partial<DeviceSettings>>('settings') ?? {};
    // Earlier versions had other names.
    return { light: light && lights.includes(light) ? light : 'system', isGuided };
  },
  reducers: {
    setLight: (state, { payload }: PayloadAction<LightSetting>) => {
      state.light = payload;
    },
    setGuided: (state, { payload }: PayloadAction<boolean>) => {
      state.isGuided = payload;
    },
  },
});

export const { setLight, setGuided } = settings.actions;
