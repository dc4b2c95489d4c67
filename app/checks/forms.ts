import type { Component } from 'vue'
import type { CheckKind } from '#core/checks/registry'
import ChoiceCheck from './ChoiceCheck.vue'
import ClockCheck from './ClockCheck.vue'
import ConfirmCheck from './ConfirmCheck.vue'
import CountCheck from './CountCheck.vue'
import DensityCheck from './DensityCheck.vue'
import LevelsCheck from './LevelsCheck.vue'
import LiftsCheck from './LiftsCheck.vue'
import LotCheck from './LotCheck.vue'
import GroutCheck from './GroutCheck.vue'
import SurveyCheck from './SurveyCheck.vue'
import MeasureCheck from './MeasureCheck.vue'

/** The working form of each kind of check; null where a person answers nothing. */
export const checkForms: Record<CheckKind, Component | null> = {
  confirm: ConfirmCheck,
  gathered: ConfirmCheck,
  mark: ConfirmCheck,
  choice: ChoiceCheck,
  measure: MeasureCheck,
  environment: MeasureCheck,
  clock: ClockCheck,
  lot: LotCheck,
  count: CountCheck,
  calculated: null,
  lifts: LiftsCheck,
  density: DensityCheck,
  levels: LevelsCheck,
  survey: SurveyCheck,
  grout: GroutCheck,
}
