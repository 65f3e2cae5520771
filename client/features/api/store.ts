// The client's state: the server's answers, what is seen just now, settings of this device, drafts.

import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector } from 'react-redux';
import { undoAway } from '../camera-settings/undo.slice';
import { drawing } from '../draw/drawing.slice';
import { tuningDraft } from '../tune/tuning.slice';
import { settings } from '../site/settings.slice';
import { api } from './api';
import { seen } from './seen.slice';
import { keepInStorage } from './storage';

export const makeStore = () => {
  const store = configureStore({
    reducer: {
      [api.reducerPath]: api.reducer,
      seen: seen.reducer,
      settings: settings.reducer,
      drawing: drawing.reducer,
      tuningDraft: tuningDraft.reducer,
      undoAway: undoAway.reducer,
    },
    middleware: (usual) => usual().concat(api.middleware),
  });
  keepInStorage(store.getState, store.subscribe);
  return store;
};

export type Store = ReturnType<typeof makeStore>;
export type AppState = ReturnType<Store['getState']>;
export const useAppSelector = useSelector.withTypes<AppState>();
export const useAppDispatch = useDispatch.withTypes<Store['dispatch']>();
