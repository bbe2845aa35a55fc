import { configureStore } from '@reduxjs/toolkit';
import { useDispatch, useSelector, useStore } from 'react-redux';
import { benchReducer } from './bench.ts';

export function createStore() {
  return configureStore({
    reducer: { bench: benchReducer },
    // Recordings are typed arrays: right for drawing, but not what these development checks expect.
    middleware: (getDefault) => getDefault({ serializableCheck: false, immutableCheck: false }),
  });
}

export type AppStore = ReturnType<typeof createStore>;
export type RootState = ReturnType<AppStore['getState']>;
export const useAppDispatch = useDispatch.withTypes<AppStore['dispatch']>();
export const useAppSelector = useSelector.withTypes<RootState>();
export const useAppStore = useStore.withTypes<AppStore>();
