import { demoCompositesStudy } from "./composites";
import { demoFactorsStudy } from "./factors";
import { demoPlannedStudy } from "./planned";
import { demoLeverStudy, demoStudy, demoTreatmentStudy } from "./study";

/** The demo studies by what they are about. */
export const DEMO_STUDIES = {
  mediation: demoStudy,
  moderation: demoLeverStudy,
  measurement: demoFactorsStudy,
  composites: demoCompositesStudy,
  treatment: demoTreatmentStudy,
  planning: demoPlannedStudy,
};
