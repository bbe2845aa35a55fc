#!/usr/bin/env node
import { reasonOf } from '@dial/core/level';
import { serve } from './serving.ts';
import { readSettings, type Settings } from './settings.ts';

const USAGE = `dial-server                 answers at DIAL_HOST and DIAL_PORT, with what is in DIAL_DATA
dial-server backup FILE     writes all that is kept into one file, also while the server runs
dial-server restore FILE    puts a backup into an empty folder (DIAL_DATA)
dial-server check           looks whether all that is kept is sound`;

/** What the words of the command line ask for; undefined when it is nothing known. */
function commandOf([name, file, ...rest]: readonly string[]): ((settings: Settings) => Promise<string>) | undefined {
  if (rest.length > 0) return undefined;
  if (name === undefined) return serve;
  if (name === 'check' && file === undefined) return async (settings) => (await import('./commands.ts')).check(settings);
  if (file === undefined) return undefined;
  if (name === 'backup') return async (settings) => (await import('./commands.ts')).backup(settings, file);
  if (name === 'restore') return async (settings) => (await import('./commands.ts')).restore(settings, file);
  return undefined;
}

function fail(message: string): void {
  console.error(message);
  process.exitCode = 2;
  // Threads that still wait for something must not keep a server going that cannot serve.
  setTimeout(() => process.exit(2), 200).unref();
}

const command = commandOf(process.argv.slice(2));
if (command === undefined) fail(USAGE);
else {
  try {
    console.log(await command(readSettings(process.env)));
  } catch (error) {
    fail(reasonOf(error));
  }
}
