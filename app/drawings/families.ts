import type { Component } from 'vue'
import type { DrawingKey } from '#core/procedure/drawings'
import DrawnBellSpigot from './joint/DrawnBellSpigot.vue'
import DrawnBoltCircle from './joint/DrawnBoltCircle.vue'
import DrawnCorrugation from './joint/DrawnCorrugation.vue'
import DrawnCoupling from './joint/DrawnCoupling.vue'
import DrawnGapClock from './joint/DrawnGapClock.vue'
import DrawnGripper from './joint/DrawnGripper.vue'
import DrawnHose from './joint/DrawnHose.vue'
import DrawnOvality from './joint/DrawnOvality.vue'
import DrawnSaddle from './joint/DrawnSaddle.vue'
import DrawnSeamClock from './joint/DrawnSeamClock.vue'
import DrawnShrinkSleeve from './joint/DrawnShrinkSleeve.vue'
import DrawnSocket from './joint/DrawnSocket.vue'
import DrawnSocketEnd from './joint/DrawnSocketEnd.vue'
import DrawnSwage from './joint/DrawnSwage.vue'
import DrawnThread from './joint/DrawnThread.vue'

/** The component that draws each family that procedures may use. */
export const drawnFamilies: Record<DrawingKey, Component> = {
  socket: DrawnSocket,
  'socket-end': DrawnSocketEnd,
  'bell-spigot': DrawnBellSpigot,
  'seam-clock': DrawnSeamClock,
  'gap-clock': DrawnGapClock,
  'bolt-circle': DrawnBoltCircle,
  ovality: DrawnOvality,
  corrugation: DrawnCorrugation,
  saddle: DrawnSaddle,
  thread: DrawnThread,
  swage: DrawnSwage,
  coupling: DrawnCoupling,
  gripper: DrawnGripper,
  hose: DrawnHose,
  'shrink-sleeve': DrawnShrinkSleeve,
}
