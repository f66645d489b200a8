import "server-only";

import type { Knex } from "knex";

import type { Report, ReportFilter, ReportId } from "@/contract/reports";
import { type Asked, askedOf } from "./base";
import { flowReport } from "./flow";
import { forecastReport, marginReport, sellersReport, tiedUpReport } from "./money";
import { oddsReport } from "./odds";
import { suppliersReport } from "./suppliers";
import { faultsReport, returnsReport, stepsReport, yieldReport } from "./work";
import { loadSettings } from "@/features/settings/settings";

/**
 * What the shop learns: each report answers one question, and reads sums that were kept as things happened.
 */

const MAKE: Record<ReportId, (db: Knex, a: Asked) => Promise<Report>> = {
  flow: flowReport,
  yield: yieldReport,
  margin: marginReport,
  forecast: forecastReport,
  odds: oddsReport,
  returns: returnsReport,
  sellers: sellersReport,
  suppliers: suppliersReport,
  faults: faultsReport,
  steps: stepsReport,
  "tied-up": tiedUpReport,
};

export async function reportOf(db: Knex, id: ReportId, filter: ReportFilter): Promise<Report> {
  const { settings } = await loadSettings(db);
  return MAKE[id](db, askedOf(filter, settings.timeZone));
}
