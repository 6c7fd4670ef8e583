import { relations } from "drizzle-orm";
import type { AnyPgColumn } from "drizzle-orm/pg-core";
import {
  adjustment,
  entry,
  entryInstrument,
  finding,
  job,
  note,
  ownerLink,
  photo,
  reading,
  repair,
  signature,
  tick,
  timer,
} from "./jobs";
import { account, workshop } from "./people";
import { instrument, machine, model, owner, site } from "./register";
import { shot } from "./shots";
import { specCard, specVersion } from "./specs";

/** How records hang together, so that a page's data is one query. */

/** A row of the same workshop. */
const mine = <W extends AnyPgColumn, C extends AnyPgColumn, T extends { workshopId: AnyPgColumn; id: AnyPgColumn }>(
  workshopId: W,
  column: C,
  to: T,
) => ({ fields: [workshopId, column] as [W, C], references: [to.workshopId, to.id] as [T["workshopId"], T["id"]] });

export const jobRelations = relations(job, ({ one, many }) => ({
  machine: one(machine, mine(job.workshopId, job.machineId, machine)),
  workshop: one(workshop, { fields: [job.workshopId], references: [workshop.id] }),
  starter: one(account, { fields: [job.startedBy], references: [account.id] }),
  notes: many(note),
  photos: many(photo),
  ticks: many(tick),
  entries: many(entry),
  entryInstruments: many(entryInstrument),
  timers: many(timer),
  spec: one(specVersion, mine(job.workshopId, job.specVersionId, specVersion)),
  readings: many(reading),
  adjustments: many(adjustment),
  repairs: many(repair),
  findings: many(finding),
  shots: many(shot),
  links: many(ownerLink),
  signature: one(signature, {
    fields: [job.workshopId, job.id],
    references: [signature.workshopId, signature.jobId],
  }),
}));

export const machineRelations = relations(machine, ({ one, many }) => ({
  model: one(model, mine(machine.workshopId, machine.modelId, model)),
  site: one(site, mine(machine.workshopId, machine.siteId, site)),
  instruments: many(instrument),
  jobs: many(job),
}));

export const siteRelations = relations(site, ({ one }) => ({
  owner: one(owner, mine(site.workshopId, site.ownerId, owner)),
}));

export const instrumentRelations = relations(instrument, ({ one }) => ({
  machine: one(machine, mine(instrument.workshopId, instrument.machineId, machine)),
}));

export const noteRelations = relations(note, ({ one }) => ({
  job: one(job, mine(note.workshopId, note.jobId, job)),
  author: one(account, { fields: [note.by], references: [account.id] }),
}));
export const photoRelations = relations(photo, ({ one }) => ({
  job: one(job, mine(photo.workshopId, photo.jobId, job)),
}));
export const tickRelations = relations(tick, ({ one }) => ({
  job: one(job, mine(tick.workshopId, tick.jobId, job)),
  author: one(account, { fields: [tick.by], references: [account.id] }),
}));
export const readingRelations = relations(reading, ({ one }) => ({
  job: one(job, mine(reading.workshopId, reading.jobId, job)),
  instrument: one(instrument, mine(reading.workshopId, reading.instrumentId, instrument)),
  reader: one(account, { fields: [reading.by], references: [account.id] }),
}));
export const adjustmentRelations = relations(adjustment, ({ one }) => ({
  job: one(job, mine(adjustment.workshopId, adjustment.jobId, job)),
  turner: one(account, { fields: [adjustment.by], references: [account.id] }),
}));
export const repairRelations = relations(repair, ({ one }) => ({
  job: one(job, mine(repair.workshopId, repair.jobId, job)),
  mender: one(account, { fields: [repair.by], references: [account.id] }),
}));
export const findingRelations = relations(finding, ({ one }) => ({
  finder: one(account, { fields: [finding.by], references: [account.id] }),
  job: one(job, mine(finding.workshopId, finding.jobId, job)),
}));
export const linkRelations = relations(ownerLink, ({ one }) => ({
  job: one(job, mine(ownerLink.workshopId, ownerLink.jobId, job)),
}));
export const shotRelations = relations(shot, ({ one }) => ({
  weighedOn: one(instrument, mine(shot.workshopId, shot.scaleId, instrument)),
  job: one(job, mine(shot.workshopId, shot.jobId, job)),
  author: one(account, { fields: [shot.by], references: [account.id] }),
}));
export const entryRelations = relations(entry, ({ one }) => ({
  job: one(job, mine(entry.workshopId, entry.jobId, job)),
  author: one(account, { fields: [entry.by], references: [account.id] }),
}));
export const entryInstrumentRelations = relations(entryInstrument, ({ one }) => ({
  job: one(job, mine(entryInstrument.workshopId, entryInstrument.jobId, job)),
  instrument: one(instrument, mine(entryInstrument.workshopId, entryInstrument.instrumentId, instrument)),
}));
export const timerRelations = relations(timer, ({ one }) => ({
  job: one(job, mine(timer.workshopId, timer.jobId, job)),
  starter: one(account, { fields: [timer.by], references: [account.id] }),
  ender: one(account, { fields: [timer.endedBy], references: [account.id] }),
}));
export const specVersionRelations = relations(specVersion, ({ one }) => ({
  card: one(specCard, mine(specVersion.workshopId, specVersion.cardId, specCard)),
}));
export const specCardRelations = relations(specCard, ({ many }) => ({ versions: many(specVersion) }));
