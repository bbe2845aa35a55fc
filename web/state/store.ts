import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { lists } from './server/lists.ts';
import { crowdReducer } from './slices/crowd.ts';
import { documentReducer } from './slices/document.ts';
import { findingsReducer } from './slices/findings.ts';
import { playbackReducer } from './slices/playback.ts';
import { savingReducer } from './slices/saving.ts';
import { simulatedReducer } from './slices/simulated.ts';
import { viewReducer } from './slices/view.ts';

export function createStore() {
  return configureStore({
    reducer: {
      document: documentReducer,
      saving: savingReducer,
      simulated: simulatedReducer,
      crowd: crowdReducer,
      findings: findingsReducer,
      playback: playbackReducer,
      view: viewReducer,
      [lists.reducerPath]: lists.reducer,
    },
    // Recordings are typed arrays: right for drawing, but not what these development checks expect.
    middleware: (getDefault) => getDefault({ serializableCheck: false, immutableCheck: false }).concat(lists.middleware),
  });
}

export type AppStore = ReturnType<typeof createStore>;
export type RootState = ReturnType<AppStore['getState']>;
export const useAppDispatch = useDispatch.withTypes<AppStore['dispatch']>();
export const useAppSelector = useSelector.withTypes<RootState>();
export const useAppStore = useStore.withTypes<AppStore>();
