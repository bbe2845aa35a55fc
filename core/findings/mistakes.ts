import { alwaysBoosted } from './numbers/alwaysBoosted.ts';
import { alwaysHolds } from './who/alwaysHolds.ts';
import { belowWholeStep } from './numbers/belowWholeStep.ts';
import { coveredBySolid } from './who/coveredBySolid.ts';
import { crossesInAStep } from './numbers/crossesInAStep.ts';
import { cureNotNeeded } from './numbers/cureNotNeeded.ts';
import { cycleTooShort } from './life/cycleTooShort.ts';
import type { Mistake } from './finding.ts';
import { goalMetAtStart } from './numbers/goalMetAtStart.ts';
import { goalOutOfReach } from './numbers/goalOutOfReach.ts';
import { harmTooFast } from './numbers/harmTooFast.ts';
import { healsLessThanHarmed } from './numbers/healsLessThanHarmed.ts';
import { healWasted } from './numbers/healWasted.ts';
import { hiddenButSolid } from './life/hiddenButSolid.ts';
import { killZonesDisagree } from './death/killZonesDisagree.ts';
import { namesAlike } from './loose/namesAlike.ts';
import { unusedFlourish, unusedItem, unusedMeter, unusedPath, unusedPoint } from './loose/unused.ts';
import { unusedKind } from './loose/unusedKind.ts';
import { unusedTag } from './loose/unusedTag.ts';
import { magnetGivesUp } from './numbers/magnetGivesUp.ts';
import { magnetTooSlow } from './numbers/magnetTooSlow.ts';
import { meterWithoutLimit } from './numbers/meterWithoutLimit.ts';
import { neverHolds } from './who/neverHolds.ts';
import { neverReadyAgain } from './life/neverReadyAgain.ts';
import { neverSenses } from './who/neverSenses.ts';
import { cannotLose } from './death/cannotLose.ts';
import { cannotWin } from './death/cannotWin.ts';
import { noRoom } from './places/noRoom.ts';
import { notAccepted } from './who/notAccepted.ts';
import { noticeLoop } from './notices/noticeLoop.ts';
import { noticeNeverPosted } from './notices/noticeNeverPosted.ts';
import { noticeUnheard } from './notices/noticeUnheard.ts';
import { oneTouchKills } from './numbers/oneTouchKills.ts';
import { outOfReach } from './who/outOfReach.ts';
import { pathThroughSolid } from './places/pathThroughSolid.ts';
import { poolFillsUp } from './places/poolFillsUp.ts';
import { regenerationUndoesHarm } from './numbers/regenerationUndoesHarm.ts';
import { restTogether } from './life/restTogether.ts';
import { returnOnTheWay } from './death/returnOnTheWay.ts';
import { returnOverDeath } from './death/returnOverDeath.ts';
import { returnInHarm } from './death/returnInHarm.ts';
import { returnInSolid } from './death/returnInSolid.ts';
import { returnOutside } from './death/returnOutside.ts';
import { returnsDead } from './death/returnsDead.ts';
import { sensesWhileHidden } from './life/sensesWhileHidden.ts';
import { setTwice } from './numbers/setTwice.ts';
import { shownNotSolid } from './life/shownNotSolid.ts';
import { stackedThings } from './places/stackedThings.ts';
import { startsTooLate } from './life/startsTooLate.ts';
import { tagNobodyBears } from './who/tagNobodyBears.ts';
import { takenByOthers } from './who/takenByOthers.ts';
import { thingInSolid } from './who/thingInSolid.ts';
import { thingOutside } from './who/thingOutside.ts';
import { chainOrder } from './order/chainOrder.ts';
import { checkpointDeadEnd } from './death/checkpointDeadEnd.ts';
import { diesAgain } from './death/diesAgain.ts';
import { launchAstray } from './places/launchAstray.ts';
import { overlapOrder } from './order/overlapOrder.ts';
import { sideShutOff } from './who/sideShutOff.ts';
import { takenByAnother } from './who/takenByAnother.ts';
import { useKeptOff } from './who/useKeptOff.ts';
import { belowNought } from './numbers/belowNought.ts';
import { fractionOfWhole } from './numbers/fractionOfWhole.ts';
import { pipsNotShown } from './loose/pipsNotShown.ts';
import { startsDead } from './death/startsDead.ts';
import { windUpTooLong } from './life/windUpTooLong.ts';

/** Every sort of mistake, by what it is about. */
export const MISTAKES: Readonly<Record<string, readonly Mistake[]>> = {
  'who and whether': [
    tagNobodyBears,
    notAccepted,
    takenByOthers,
    takenByAnother,
    neverSenses,
    thingOutside,
    thingInSolid,
    coveredBySolid,
    neverHolds,
    alwaysHolds,
    outOfReach,
    useKeptOff,
    sideShutOff,
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
    fractionOfWhole,
    belowNought,
    alwaysBoosted,
    harmTooFast,
    oneTouchKills,
    healsLessThanHarmed,
    goalMetAtStart,
    goalOutOfReach,
    regenerationUndoesHarm,
    setTwice,
    magnetTooSlow,
    magnetGivesUp,
    crossesInAStep,
  ],
  'death and return': [
    returnInHarm,
    returnInSolid,
    returnOutside,
    returnOnTheWay,
    returnOverDeath,
    killZonesDisagree,
    startsDead,
    returnsDead,
    diesAgain,
    checkpointDeadEnd,
    cannotLose,
    cannotWin,
  ],
  places: [noRoom, poolFillsUp, stackedThings, pathThroughSolid, launchAstray],
  'order and notices': [overlapOrder, chainOrder, noticeNeverPosted, noticeUnheard, noticeLoop],
  'loose ends': [unusedKind, unusedItem, unusedMeter, unusedPoint, unusedPath, unusedFlourish, unusedTag, namesAlike, pipsNotShown],
};
