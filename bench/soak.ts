/** `npm run soak`: the long form of the kill and race runs; prints what was lost and doubled. Ends with 1 when anything was. */
import { balanceRun, killRun, slowMailRun } from '../server/testing/soak.ts';
import { effectsRun } from '../server/testing/soakEffects.ts';

const kills = Number(process.env.NP_KILLS ?? 50);
const killed = await killRun({ kills, requests: 200 });
process.stdout.write(
  `${killed.kills} kills, ${killed.requests} requests, ${killed.decisions} decisions, ${killed.events} events, ${killed.mails} mails\n`,
);
process.stdout.write(`${killed.lost} lost, ${killed.doubled} doubled, ${killed.faults.length} faults in all\n`);
for (const fault of killed.faults.slice(0, 20)) process.stdout.write(`  ${fault}\n`);
const slow = await slowMailRun({ letters: 20, lease: 900, slow: 2500 });
process.stdout.write(
  `mail server slower than a letter is in one hand, two servers: ${slow.letters} letters, ${slow.lost} lost, ${slow.doubled} doubled\n`,
);
const effects = await effectsRun({ kills: Math.ceil(kills / 2), requests: 60 });
process.stdout.write(
  `slow calls whose answers are lost, two servers, ${effects.kills} kills: ${effects.requests} requests, ${effects.calls} calls, ${effects.repeats} asked for again; ${effects.lost} lost, ${effects.doubled} doubled, ${effects.faults} faults\n`,
);
const balance = await balanceRun(200);
process.stdout.write(
  `${balance.asked} asked for the days of one balance: ${balance.booked} booked of ${balance.fit} that fit, ${balance.refused} refused, ${balance.other} without an answer\n`,
);
const sound =
  effects.lost + effects.doubled + effects.faults === 0 &&
  killed.lost + killed.doubled + killed.faults.length + balance.other + slow.lost + slow.doubled === 0 &&
  slow.letters >= 20 &&
  balance.booked === balance.fit;
process.exit(sound ? 0 : 1);
