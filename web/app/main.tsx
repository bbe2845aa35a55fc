import { writeNumbersWith } from '@dial/core/formats';
import { StrictMode } from 'react';
import { createRoot } from 'react-dom/client';
import { Provider } from 'react-redux';
import { BrowserRouter, Route, Routes } from 'react-router';
import { LevelsPage } from '../levels/LevelsPage.tsx';
import { SIGN_IN } from '../state/server/api.ts';
import { startFollowing } from '../state/sync/following.ts';
import { startKeeping } from '../state/sync/keeping.ts';
import { sendPlays } from '../state/sync/plays.ts';
import { startSaving } from '../state/sync/saving.ts';
import { startCrowding } from '../state/simulation/crowding.ts';
import { startSimulating } from '../state/simulation/simulating.ts';
import { createStore } from '../state/store.ts';
import { AppHeader } from '../controls/AppHeader.tsx';
import { Hints } from '../controls/Hints.tsx';
import { later } from '../controls/later.tsx';
import { passNonceOn } from '../browser/nonce.ts';
import { applyTheme } from '../drawing/palette.ts';
import './styles.css';

// Drawing surfaces are large; the first page does not wait for them.
const opening = { meanwhile: <p className="p-4 text-soft">Opening …</p> };
const BenchPage = later(() => import('./BenchPage.tsx').then((module) => module.BenchPage), opening);
const SheetPage = later(() => import('./SheetPage.tsx').then((module) => module.SheetPage), opening);
const RunsPage = later(() => import('./RunsPage.tsx').then((module) => module.RunsPage), opening);
const CrowdPage = later(() => import('./CrowdPage.tsx').then((module) => module.CrowdPage), opening);
const SweepPage = later(() => import('./SweepPage.tsx').then((module) => module.SweepPage), opening);
const ReportPage = later(() => import('./ReportPage.tsx').then((module) => module.ReportPage), opening);
const KeysPage = later(() => import('./KeysPage.tsx').then((module) => module.KeysPage), opening);
const SignInPage = later(() => import('./SignInPage.tsx').then((module) => module.SignInPage), opening);
const PlayPage = later(() => import('../play/PlayPage.tsx').then((module) => module.PlayPage), opening);

passNonceOn();
// Numbers and dates are the reader's; of the signs only the decimal one, which is also how they are typed.
const signs = new Intl.NumberFormat().formatToParts(1.5);
if (signs.some(({ type, value }) => type === 'decimal' && value === ',')) writeNumbersWith(',');
applyTheme();
const store = createStore();
startKeeping(store);
startSaving(store);
startFollowing(store);
startSimulating(store);
startCrowding(store);
// Plays that were left before they were sent; those of a tab closed just now a little later.
const sendLeft = (): void => void sendPlays();
sendLeft();
setTimeout(sendLeft, 15_000);

function NoSuchPage() {
  return (
    <>
      <AppHeader />
      <p className="p-4">There is no such page. The levels are under “Dial”, top left.</p>
    </>
  );
}

const root = document.getElementById('root');
if (root === null) throw new Error('the page has no root');
createRoot(root).render(
  <StrictMode>
    <Provider store={store}>
      <Hints>
        <BrowserRouter>
          <Routes>
            <Route path="/" element={<LevelsPage />} />
            <Route path="/levels/:level" element={<BenchPage />} />
            <Route path="/levels/:level/sheet" element={<SheetPage />} />
            <Route path="/levels/:level/runs" element={<RunsPage />} />
            <Route path="/levels/:level/crowd" element={<CrowdPage />} />
            <Route path="/levels/:level/sweep" element={<SweepPage />} />
            <Route path="/levels/:level/report" element={<ReportPage />} />
            <Route path="/levels/:level/play" element={<PlayPage />} />
            <Route path={SIGN_IN} element={<SignInPage />} />
            <Route path="/keys" element={<KeysPage />} />
            <Route path="*" element={<NoSuchPage />} />
          </Routes>
        </BrowserRouter>
      </Hints>
    </Provider>
  </StrictMode>,
);
