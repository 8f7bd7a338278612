/** What is changed of a leave plan, sentence by sentence. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import MenuItem from '@mui/material/MenuItem';
import TextField from '@mui/material/TextField';
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

type Named = { readonly id: string; readonly name: string };
type Props = { rules: PlanRules; types: readonly Named[]; isNew: boolean; onChange: (rules: PlanRules) => void };

type Carry = NonNullable<PlanRules['carryOver']>;

/** For which leave what could not be taken is kept, and how long. */
function Kept({
  kept,
  types,
  onChange,
}: {
  kept: NonNullable<Carry['kept']>;
  types: readonly Named[];
  onChange: (kept: NonNullable<Carry['kept']>) => void;
}) {
  const put = (n: number, more: Partial<NonNullable<Carry['kept']>[number]>) =>
    onChange(kept.map((one, i) => (i === n ? { ...one, ...more } : one)));
  return (
    <Box sx={{ display: 'grid', gap: 1 }}>
      {kept.map((one, n) => (
        // biome-ignore lint/suspicious/noArrayIndexKey: what is kept has no identity besides its place
        <Box key={n} sx={{ display: 'flex', gap: 1, alignItems: 'start', flexWrap: 'wrap' }}>
          <TextField
            select
            label="Because of"
            value={one.types}
            onChange={event => {
              const chosen = event.target.value as unknown as string[];
              if (chosen.length > 0) put(n, { types: chosen });
            }}
            slotProps={{ select: { multiple: true } }}
            sx={{ width: 260 }}
          >
            {types.map(({ id, name }) => (
              <MenuItem key={id} value={id}>
                {name}
              </MenuItem>
            ))}
          </TextField>
          <NumberField
            label="Months of the new year"
            value={one.months}
            onNumber={typed => typed !== null && typed >= 1 && put(n, { months: Math.round(typed) })}
            width={190}
          />
          <Button color="error" onClick={() => onChange(kept.filter((_, i) => i !== n))} sx={{ mt: 0.5 }}>
            Remove
          </Button>
        </Box>
      ))}
      <Box>
        <Button
          onClick={() => onChange([...kept, { types: [types.at(-1)?.id ?? ''], months: 15 }])}
          disabled={kept.length >= 5}
        >
          Keep what could not be taken
        </Button>
      </Box>
    </Box>
  );
}

/** The fields of one sentence of a leave plan. */
export function planFields({ rules, types, isNew, onChange }: Props, about: PlanAbout): ReactNode {
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
    case 'kept': {
      const carry = rules.carryOver;
      if (!carry) return null;
      const { kept: _, ...rest } = carry;
      return (
        <Kept
          kept={carry.kept ?? []}
          types={types}
          onChange={kept => put({ carryOver: kept.length > 0 ? { ...rest, kept } : rest })}
        />
      );
    }
    case 'warned': {
      const carry = rules.carryOver;
      if (!carry) return null;
      const { warned: _, ...rest } = carry;
      return (
        <ChoiceField
          label="It lapses"
          value={carry.warned ? 'told' : 'always'}
          options={[
            { id: 'always', name: 'whether or not a letter said so' },
            { id: 'told', name: 'only for people who were told in a letter' },
          ]}
          onChange={id => put({ carryOver: id === 'told' ? { ...rest, warned: true } : rest })}
        />
      );
    }
    case 'carryOver': {
      const carry = rules.carryOver ?? null;
      return (
        <>
          <NumberField
            label="Carried over, at most"
            value={carry?.max ?? null}
            help="Nothing where none is."
            onNumber={typed =>
              put({ carryOver: typed === null ? null : { expires: null, ...carry, max: Math.max(0, typed) } })
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
