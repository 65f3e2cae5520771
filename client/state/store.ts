// The client's state: the server's answers, what is seen just now, settings of this device, drafts.

import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { removed } from './removed';
import { confirming } from './confirm';
import { drawing } from './drawing';
import { schedules } from './schedules';
import { plan } from './plan';
import { tuningDraft } from './tuning';
import { rule } from './rule';
import { settings } from './settings';
import { siteText } from './siteText';
import { api } from './api';
import { live } from './live';
import { saveInStorage } from './storage';

export const makeStore = () => {
  const store = configureStore({
    reducer: {
      [api.reducerPath]: api.reducer,
      live: live.reducer,
      settings: settings.reducer,
      confirming: confirming.reducer,
      drawing: drawing.reducer,
      plan: plan.reducer,
      schedules: schedules.reducer,
      rule: rule.reducer,
      siteText: siteText.reducer,
      tuningDraft: tuningDraft.reducer,
      removed: removed.reducer,
    },
    middleware: (usual) => usual().concat(api.middleware),
  });
  saveInStorage(store.getState, store.subscribe);
  return store;
};

export type Store = ReturnType<typeof makeStore>;
export type AppState = ReturnType<Store['getState']>;
export const useAppSelector = useSelector.withTypes<AppState>();
export const useAppDispatch = useDispatch.withTypes<Store['dispatch']>();
