import { relations } from "drizzle-orm";
import {
  adjustment,
  entry,
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
import { account } from "./people";
import { instrument, machine, model, owner, site } from "./register";
import { shot } from "./shots";
import { specCard, specVersion } from "./specs";

/** How records hang together, so that a page's data is one query. */

export const jobRelations = relations(job, ({ one, many }) => ({
  machine: one(machine, { fields: [job.machineId], references: [machine.id] }),
  starter: one(account, { fields: [job.startedBy], references: [account.id] }),
  notes: many(note),
  photos: many(photo),
  ticks: many(tick),
  entries: many(entry),
  timers: many(timer),
  spec: one(specVersion, { fields: [job.specVersionId], references: [specVersion.id] }),
  readings: many(reading),
  adjustments: many(adjustment),
  repairs: many(repair),
  findings: many(finding),
  shots: many(shot),
  links: many(ownerLink),
  signature: one(signature, { fields: [job.id], references: [signature.jobId] }),
}));

export const machineRelations = relations(machine, ({ one, many }) => ({
  model: one(model, { fields: [machine.modelId], references: [model.id] }),
  site: one(site, { fields: [machine.siteId], references: [site.id] }),
  instruments: many(instrument),
  jobs: many(job),
}));

export const siteRelations = relations(site, ({ one }) => ({
  owner: one(owner, { fields: [site.ownerId], references: [owner.id] }),
}));

export const instrumentRelations = relations(instrument, ({ one }) => ({
  machine: one(machine, { fields: [instrument.machineId], references: [machine.id] }),
}));

export const noteRelations = relations(note, ({ one }) => ({
  job: one(job, { fields: [note.jobId], references: [job.id] }),
  author: one(account, { fields: [note.by], references: [account.id] }),
}));
export const photoRelations = relations(photo, ({ one }) => ({
  job: one(job, { fields: [photo.jobId], references: [job.id] }),
}));
export const tickRelations = relations(tick, ({ one }) => ({
  job: one(job, { fields: [tick.jobId], references: [job.id] }),
}));
export const readingRelations = relations(reading, ({ one }) => ({
  job: one(job, { fields: [reading.jobId], references: [job.id] }),
  instrument: one(instrument, { fields: [reading.instrumentId], references: [instrument.id] }),
  reader: one(account, { fields: [reading.by], references: [account.id] }),
}));
export const adjustmentRelations = relations(adjustment, ({ one }) => ({
  job: one(job, { fields: [adjustment.jobId], references: [job.id] }),
  turner: one(account, { fields: [adjustment.by], references: [account.id] }),
}));
export const repairRelations = relations(repair, ({ one }) => ({
  job: one(job, { fields: [repair.jobId], references: [job.id] }),
  mender: one(account, { fields: [repair.by], references: [account.id] }),
}));
export const findingRelations = relations(finding, ({ one }) => ({
  finder: one(account, { fields: [finding.by], references: [account.id] }),
  job: one(job, { fields: [finding.jobId], references: [job.id] }),
}));
export const linkRelations = relations(ownerLink, ({ one }) => ({
  job: one(job, { fields: [ownerLink.jobId], references: [job.id] }),
}));
export const shotRelations = relations(shot, ({ one }) => ({
  job: one(job, { fields: [shot.jobId], references: [job.id] }),
  author: one(account, { fields: [shot.by], references: [account.id] }),
}));
export const entryRelations = relations(entry, ({ one }) => ({
  job: one(job, { fields: [entry.jobId], references: [job.id] }),
  author: one(account, { fields: [entry.by], references: [account.id] }),
}));
export const timerRelations = relations(timer, ({ one }) => ({
  job: one(job, { fields: [timer.jobId], references: [job.id] }),
  starter: one(account, { fields: [timer.by], references: [account.id] }),
  ender: one(account, { fields: [timer.endedBy], references: [account.id] }),
}));
export const specVersionRelations = relations(specVersion, ({ one }) => ({
  card: one(specCard, { fields: [specVersion.cardId], references: [specCard.id] }),
}));
export const specCardRelations = relations(specCard, ({ many }) => ({ versions: many(specVersion) }));
