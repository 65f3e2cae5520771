// Settings of this device alone.

import { createSlice, type PayloadAction } from '@reduxjs/toolkit';
import { remembered } from './storage';

const lights = ['system', 'light', 'dark'] as const;
export type LightSetting = (typeof lights)[number];

/**
 * `isGuided`: the person who created the site is led from step to step. `isPhoneOfferSeen`, `isPhoneOffered`: alerts on this device
 * were offered; they were left for later.
 */
type DeviceSettings = { light: LightSetting; isGuided: boolean; isPhoneOfferSeen: boolean; isPhoneOffered: boolean };

export const settings = createSlice({
  name: 'settings',
  initialState: (): DeviceSettings => {
    const {
      light,
      isGuided = false,
      isPhoneOfferSeen = false,
      isPhoneOffered = false,
    } = remembered<Partial<DeviceSettings>>('settings') ?? {};
    // Earlier versions had other names.
    return { light: light && lights.includes(light) ? light : 'system', isGuided, isPhoneOfferSeen, isPhoneOffered };
  },
  reducers: {
    setLight: (state, { payload }: PayloadAction<LightSetting>) => {
      state.light = payload;
    },
    setPhoneOfferSeen: (state) => {
      state.isPhoneOfferSeen = true;
    },
    setPhoneOffered: (state, { payload }: PayloadAction<boolean>) => {
      state.isPhoneOffered = payload;
    },
    setGuided: (state, { payload }: PayloadAction<boolean>) => {
      state.isGuided = payload;
    },
  },
});

export const { setLight, setGuided, setPhoneOfferSeen, setPhoneOffered } = settings.actions;
