import type { ReactNode } from 'react';
import { Link } from 'react-router';
import { chooseTheme, usePalette } from '../drawing/palette.ts';

function Logo() {
  return (
    <svg width="26" height="24" viewBox="0 0 26 24" aria-hidden="true">
      <path d="M1.5 12h23v8.5h-23z" fill="var(--card)" stroke="var(--ink)" strokeWidth="1.6" />
      <path d="M5 20.5v-3M9 20.5v-4.5M17 20.5v-4.5M21 20.5v-3" stroke="var(--ink)" strokeWidth="1.4" />
      <path d="M13 20V9" stroke="var(--needle)" strokeWidth="2" />
      <path d="M8.8 3.5h8.4L13 9.8z" fill="var(--needle)" />
    </svg>
  );
}

interface AppHeaderProps {
  readonly children?: ReactNode;
  /** What the page adds stays side by side, however little room there is. */
  readonly oneLine?: boolean;
}

/** The bar over every page: the way home, what the page adds, and the theme. */
export function AppHeader({ children, oneLine = false }: AppHeaderProps) {
  const { theme } = usePalette();
  const other = theme === 'light' ? 'dark' : 'light';
  return (
    <header className="flex min-h-[46px] shrink-0 items-center gap-3 border-b-[1.5px] max-[1179px]:gap-2 border-ink bg-paper px-3.5">
      <Link to="/" className="flex items-center gap-2 rounded-sm text-sm font-bold" aria-label="Dial, all levels">
        <Logo />
        <span className="max-[1179px]:sr-only">Dial</span>
      </Link>
      <div className={`flex min-w-0 flex-1 items-center gap-x-3 self-stretch ${oneLine ? '' : 'flex-wrap'}`}>{children}</div>
      <button
        type="button"
        className="cursor-pointer rounded-sm px-1 text-xs text-soft hover:text-ink hover:underline"
        onClick={() => chooseTheme(other)}
      >
        {other === 'dark' ? 'Dark' : 'Light'}
      </button>
    </header>
  );
}
