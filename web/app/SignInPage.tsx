import { reasonOf } from '@dial/core/level';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { api } from '../state/server/api.ts';
import { AppHeader } from '../controls/AppHeader.tsx';
import { hasFocusAtFirst } from '../controls/firstFocus.ts';
import { Button } from '../controls/controls.tsx';
import { useOnce } from '../controls/hooks/useOnce.ts';

/** A path of this very page's own; anything else leads to the levels. */
const ownPath = (to: string | null): string => (to !== null && /^\/(?![/\\])/.test(to) ? to : '/');

/** Asks for the token of a server that other machines may reach. */
export function SignInPage() {
  const [search] = useSearchParams();
  const [trouble, setTrouble] = useState<string | null>(null);
  const [busy, once] = useOnce();
  const signIn = async (token: string): Promise<void> => {
    if (token === '') {
      setTrouble('Type the token first.');
      return;
    }
    try {
      await api.signIn(token);
      // A fresh page: all that failed for want of the token is asked for again.
      location.replace(ownPath(search.get('to')));
    } catch (error) {
      setTrouble(reasonOf(error));
    }
  };
  return (
    <>
      <AppHeader />
      <main className="mx-auto mt-10 w-[420px] rounded-lg border-[1.3px] border-ink bg-card px-5 py-4">
        <title>Sign in · Dial</title>
        <h1 className="text-[15px] font-bold">Sign in</h1>
        <p className="mt-1 text-soft">
          This Dial can be reached by other machines, so it asks for its token: the one set as DIAL_TOKEN where it was started.
        </p>
        <form
          className="mt-3 flex gap-2"
          onSubmit={(event) => {
            event.preventDefault();
            const token = new FormData(event.currentTarget).get('token');
            once(() => signIn(typeof token === 'string' ? token.trim() : ''));
          }}
        >
          <input
            name="token"
            type="password"
            autoComplete="current-password"
            aria-label="Token"
            maxLength={500}
            className="min-w-0 flex-1 rounded-sm border border-ink bg-paper px-1.5 py-1"
            ref={hasFocusAtFirst}
          />
          <Button type="submit" kind="strong" disabled={busy}>
            Sign in
          </Button>
        </form>
        {trouble !== null && (
          <p role="alert" className="mt-2 text-harm">
            {trouble}
          </p>
        )}
      </main>
    </>
  );
}
