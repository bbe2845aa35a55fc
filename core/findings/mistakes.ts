import { alwaysBoosted } from './alwaysBoosted.ts';
import { alwaysHolds } from './alwaysHolds.ts';
import { belowWholeStep } from './belowWholeStep.ts';
import { coveredBySolid } from './coveredBySolid.ts';
import { crossesInAStep } from './crossesInAStep.ts';
import { cureNotNeeded } from './cureNotNeeded.ts';
import { cycleTooShort } from './cycleTooShort.ts';
import type { Mistake } from './finding.ts';
import { goalOutOfReach } from './goalOutOfReach.ts';
import { harmTooFast } from './harmTooFast.ts';
import { healsLessThanHarmed } from './healsLessThanHarmed.ts';
import { healWasted } from './healWasted.ts';
import { hiddenButSolid } from './hiddenButSolid.ts';
import { killZonesDisagree } from './killZonesDisagree.ts';
import { namesAlike, unusedFlourish, unusedItem, unusedKind, unusedMeter, unusedPath, unusedPoint, unusedTag } from './looseEnds.ts';
import { magnetGivesUp } from './magnetGivesUp.ts';
import { magnetTooSlow } from './magnetTooSlow.ts';
import { meterWithoutLimit } from './meterWithoutLimit.ts';
import { neverHolds } from './neverHolds.ts';
import { neverReadyAgain } from './neverReadyAgain.ts';
import { neverSenses } from './neverSenses.ts';
import { cannotLose, cannotWin } from './noEnd.ts';
import { noRoom } from './noRoom.ts';
import { notAccepted } from './notAccepted.ts';
import { noticeLoop, noticeNeverPosted, noticeUnheard } from './notices.ts';
import { oneTouchKills } from './oneTouchKills.ts';
import { outOfReach } from './outOfReach.ts';
import { pathThroughSolid } from './pathThroughSolid.ts';
import { poolFillsUp } from './poolFillsUp.ts';
import { regenerationUndoesHarm } from './regenerationUndoesHarm.ts';
import { restTogether } from './restTogether.ts';
import { returnInHarm, returnInSolid, returnOutside } from './returnPlaces.ts';
import { returnsDead } from './returnsDead.ts';
import { sensesWhileHidden } from './sensesWhileHidden.ts';
import { setTwice } from './setTwice.ts';
import { shownNotSolid } from './shownNotSolid.ts';
import { stackedThings } from './stackedThings.ts';
import { startsTooLate } from './startsTooLate.ts';
import { tagNobodyBears } from './tagNobodyBears.ts';
import { takenByOthers } from './takenByOthers.ts';
import { thingInSolid } from './thingInSolid.ts';
import { thingOutside } from './thingOutside.ts';
import { windUpTooLong } from './windUpTooLong.ts';

/** Every sort of mistake, by what it is about. */
export const MISTAKES: Readonly<Record<string, readonly Mistake[]>> = {
  'who and whether': [
    tagNobodyBears,
    notAccepted,
    takenByOthers,
    neverSenses,
    thingOutside,
    thingInSolid,
    coveredBySolid,
    neverHolds,
    alwaysHolds,
    outOfReach,
  ],
  'life cycle': [
    neverReadyAgain,
    hiddenButSolid,
    shownNotSolid,
    sensesWhileHidden,
    windUpTooLong,
    cycleTooShort,
    restTogether,
    startsTooLate,
  ],
  numbers: [
    meterWithoutLimit,
    healWasted,
    cureNotNeeded,
    belowWholeStep,
    alwaysBoosted,
    harmTooFast,
    oneTouchKills,
    healsLessThanHarmed,
    goalOutOfReach,
    regenerationUndoesHarm,
    setTwice,
    magnetTooSlow,
    magnetGivesUp,
    crossesInAStep,
  ],
  'death and return': [returnInHarm, returnInSolid, returnOutside, killZonesDisagree, returnsDead, cannotLose, cannotWin],
  places: [noRoom, poolFillsUp, stackedThings, pathThroughSolid],
  notices: [noticeNeverPosted, noticeUnheard, noticeLoop],
  'loose ends': [unusedKind, unusedItem, unusedMeter, unusedPoint, unusedPath, unusedFlourish, unusedTag, namesAlike],
};
