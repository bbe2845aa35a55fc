import './withoutEval.ts';
import type { Level } from '@dial/core/level';
import { compile, type Compiled } from '@dial/core/session';
import { playShard, turnedLevel } from '@dial/core/studies';
import { expose } from 'comlink';
import { CrowdRequest, type CrowdApi } from './crowdProtocol.ts';
import { createReceiving } from './sending.ts';

const received = createReceiving();

let last: { readonly level: Level; readonly compiled: Compiled } | null = null;

/** A level is compiled once, however many parts of its crowd are asked for. */
function compiledFor(level: Level): Compiled {
  if (last?.level !== level) last = { level, compiled: compile(level) };
  return last.compiled;
}

const api: CrowdApi = {
  play(request) {
    const { settings, from, to, turned, ...sent } = CrowdRequest.parse(request);
    const { level } = received(sent);
    if (turned === null) return playShard(level, settings, { from, to }, { tracks: true }, compiledFor(level));
    const other = turnedLevel(level, [turned]);
    return other.ok ? playShard(other.value, settings, { from, to }) : null;
  },
};

expose(api);
