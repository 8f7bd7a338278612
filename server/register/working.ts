/** What the register does by itself, once an hour: asks for new papers, reminds their holders, throws away what is not needed. */
import { paperWork, usualRules } from '@north-pebble/core/papers';
import { isEmployed, type PersonId, todayFor } from '@north-pebble/core/people';
import { type CivilDate, fullDate } from '@north-pebble/core/time';
import { eq, isNull } from 'drizzle-orm';
import { inTransaction, tables as t } from '../database/index.ts';
import { dropLooseNumbers, forgetPaper, type House } from '../house/index.ts';
import { openByHouse, waitingRows } from '../requests/index.ts';
import { keptOf, type Paper, rulesByKind, withdrawnOn } from './service.ts';

export type Done = { asked: number; reminded: number; forgotten: number };

/** Everything that is due by the clock of the house. Several servers may: each paper is taken in a transaction of its own. */
export async function workRegister(house: House): Promise<Done> {
  const { db } = house;
  const done: Done = { asked: 0, reminded: 0, forgotten: 0 };
  const rows = await db
    .select({
      id: t.papers.id,
      kind: t.papers.kind,
      person: t.papers.person,
      request: { status: t.requests.status, closedAt: t.requests.closedAt },
    })
    .from(t.papers)
    .leftJoin(t.requests, eq(t.requests.id, t.papers.request))
    .where(isNull(t.papers.forgottenOn));
  const rules = await rulesByKind(db);
  const { index, now } = await house.moment(db);
  for (const { id, kind, person, request } of rows) {
    const today = todayFor(index, (person ?? '') as PersonId, now);
    await inTransaction(db, async tx => {
      const [paper] = await tx.select().from(t.papers).where(eq(t.papers.id, id)).for('update');
      if (!paper || paper.forgottenOn !== null) return;
      const own = rules.get(kind) ?? usualRules(kind);
      const work = paperWork(keptOf(paper, index, withdrawnOn(request)), own, today);
      if (work.forget) {
        await forgetPaper(tx, id, today);
        done.forgotten++;
        return;
      }
      const holder = person === null ? undefined : index.person(person as PersonId);
      // Who is not here, or is not on file, is asked for nothing.
      if (!holder || !isEmployed(holder, today)) return;
      if (work.ask && own.workflow) {
        const opened = await openByHouse(house, tx, own.workflow, holder.id, {
          Paper: kind,
          'Runs out': paper.expires,
        });
        if (opened) {
          await tx.update(t.papers).set({ renewal: opened }).where(eq(t.papers.id, id));
          done.asked++;
        } else house.log.warn({ paper: id, workflow: own.workflow }, 'a new paper could not be asked for');
      }
      if (work.remind !== null) {
        await tx.update(t.papers).set({ reminded: work.remind }).where(eq(t.papers.id, id));
        await tx.insert(t.effects).values(waitingRows(paper.renewal, [reminderOf(paper, holder.id, work.remind)], now));
        done.reminded++;
      }
    });
  }
  await inTransaction(db, dropLooseNumbers);
  house.wake();
  return done;
}

const reminderOf = (paper: Paper, to: PersonId, step: number) => ({
  kind: 'mail' as const,
  key: `paper:${paper.id}:${paper.expires}:${step}`,
  to,
  subject: `${paper.kind}: it runs out on ${fullDate(paper.expires as CivilDate)}`,
  body: `Your ${paper.kind.charAt(0).toLowerCase()}${paper.kind.slice(1)} runs out on ${fullDate(paper.expires as CivilDate)}.${
    paper.renewal
      ? ` Give the new one with request ${paper.renewal}; it waits on your desk.`
      : ' Give the new one to HR operations.'
  }`,
});

/** Once an hour, until stopped. */
export function keepRegister(house: House, pause = 60 * 60_000): () => void {
  const look = () => void workRegister(house).catch(fault => house.log.warn({ err: fault }, 'papers'));
  const timer = setInterval(look, pause);
  return () => clearInterval(timer);
}
