import { answer, type Answer, type Ask, type Levels } from '@dial/core/studies';

/** What a thread is asked for: a part of what a study asks. */
export interface AskTask {
  readonly levels: Levels;
  readonly ask: Ask;
}

export default ({ levels, ask }: AskTask): Answer => answer(levels, ask);
