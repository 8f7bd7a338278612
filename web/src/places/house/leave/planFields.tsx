/** What is changed of a leave plan, sentence by sentence. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import type { PlanAbout, PlanRules } from '@north-pebble/core/leave';
import type { ReactNode } from 'react';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { NumberField } from './NumberField.tsx';
import { YearDayField } from './YearDayField.tsx';

function Tiers({ tiers, onChange }: { tiers: PlanRules['perYear']; onChange: (tiers: PlanRules['perYear']) => void }) {
  const put = (n: number, more: Partial<PlanRules['perYear'][number]>) =>
    onChange(tiers.map((one, i) => (i === n ? { ...one, ...more } : one)));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {tiers.map((tier, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: tiers have no identity besides their place
        <Box key={n} sx={{ display: 'flex', gap: 1, alignItems: 'start', flexWrap: 'wrap' }}>
          <NumberField
            label="From years of service"
            value={tier.fromServiceYears}
            onNumber={typed => put(n, { fromServiceYears: Math.max(0, typed ?? 0) })}
            width={180}
          />
          <NumberField
            label="Amount"
            value={tier.amount}
            onNumber={typed => put(n, { amount: Math.max(0, typed ?? 0) })}
            width={120}
          />
          <Button color="error" onClick={() => onChange(tiers.filter((_, i) => i !== n))} sx={{ mt: 0.5 }}>
            Take it away
          </Button>
        </Box>
      ))}
      <Box>
        <Button
          onClick={() => {
            const last = tiers.at(-1);
            onChange([
              ...tiers,
              { fromServiceYears: last ? last.fromServiceYears + 5 : 0, amount: last ? last.amount + 1 : 25 },
            ]);
          }}
        >
          More after some years
        </Button>
      </Box>
    </Box>
  );
}

type Props = { rules: PlanRules; isNew: boolean; onChange: (rules: PlanRules) => void };

/** The fields of one sentence of a leave plan. */
export function planFields({ rules, isNew, onChange }: Props, about: PlanAbout): ReactNode {
  const put = (more: Partial<PlanRules>) => onChange({ ...rules, ...more });
  switch (about) {
    case 'perYear':
      return <Tiers tiers={rules.perYear} onChange={perYear => put({ perYear })} />;
    case 'yearStart':
      if (!isNew) return <Box sx={{ py: 1 }}>A plan keeps its leave year. Make a new plan for another one.</Box>;
      return (
        <>
          <ChoiceField
            label="The leave year begins"
            value={rules.yearStart === 'anniversary' ? 'joining' : 'day'}
            options={[
              { id: 'day', name: 'on a day of the year' },
              { id: 'joining', name: 'on the day of joining' },
            ]}
            onChange={id => put({ yearStart: id === 'joining' ? 'anniversary' : '01-01' })}
          />
          {rules.yearStart !== 'anniversary' && (
            <YearDayField label="Day" value={rules.yearStart} onChange={yearStart => put({ yearStart })} />
          )}
        </>
      );
    case 'accrual':
      return (
        <ChoiceField
          label="Given"
          value={rules.accrual}
          options={[
            { id: 'yearly', name: 'whole, on the first day of the leave year' },
            { id: 'monthly-in-advance', name: 'monthly, on the first day' },
            { id: 'monthly-in-arrears', name: 'monthly, on the last day' },
            { id: 'hours-worked', name: 'monthly, by hours worked' },
          ]}
          onChange={id => put({ accrual: id as PlanRules['accrual'] })}
        />
      );
    case 'proration':
      return (
        <ChoiceField
          label="A part of a year, by"
          value={rules.proration}
          options={[
            { id: 'daily', name: 'days' },
            { id: 'monthly', name: 'months' },
          ]}
          onChange={id => put({ proration: id as PlanRules['proration'] })}
        />
      );
    case 'rounding':
      return (
        <>
          <ChoiceField
            label="Rounded"
            value={rules.rounding.mode}
            options={[
              { id: 'nearest', name: 'to the nearest' },
              { id: 'up', name: 'up' },
              { id: 'down', name: 'down' },
            ]}
            onChange={id => put({ rounding: { ...rules.rounding, mode: id as PlanRules['rounding']['mode'] } })}
          />
          <NumberField
            label="Step"
            value={rules.rounding.step}
            onNumber={typed => typed !== null && typed > 0 && put({ rounding: { ...rules.rounding, step: typed } })}
          />
        </>
      );
    case 'carryOver': {
      const carry = rules.carryOver ?? null;
      return (
        <>
          <NumberField
            label="Carried over, at most"
            value={carry?.max ?? null}
            help="Nothing where none is."
            onNumber={typed =>
              put({ carryOver: typed === null ? null : { expires: carry?.expires ?? null, max: Math.max(0, typed) } })
            }
            width={190}
          />
          {carry && (
            <ChoiceField
              label="What is left of it"
              value={carry.expires ? 'lapses' : 'stays'}
              options={[
                { id: 'lapses', name: 'lapses on a day' },
                { id: 'stays', name: 'does not lapse' },
              ]}
              onChange={id => put({ carryOver: { ...carry, expires: id === 'lapses' ? '03-31' : null } })}
            />
          )}
          {carry?.expires && (
            <YearDayField
              label="Lapses on"
              value={carry.expires}
              onChange={expires => put({ carryOver: { ...carry, expires } })}
            />
          )}
        </>
      );
    }
  }
}
