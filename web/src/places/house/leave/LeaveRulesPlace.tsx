/** Leave rules as they are read aloud: types, plans, and how many are needed where, each through time. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Menu from '@mui/material/Menu';
import MenuItem from '@mui/material/MenuItem';
import Typography from '@mui/material/Typography';
import type { LeaveRulesView } from '@north-pebble/contract';
import type { HouseChange } from '@north-pebble/core/facts';
import {
  type LeaveType,
  type LeaveTypeRules,
  type PlanAbout,
  type PlanRules,
  planSentences,
  type TypeAbout,
  typeOn,
  typeSentences,
} from '@north-pebble/core/leave';
import { useQuery } from '@tanstack/react-query';
import { useState } from 'react';
import { useSearchParams } from 'react-router';
import { leaveRulesQuery, queryClient } from '../../../api/queries.ts';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { Empty, Loaded } from '../../../parts/Page.tsx';
import { Beside, HouseFrame, Names } from '../HouseFrame.tsx';
import { PresenceChange } from './PresenceChange.tsx';
import { planFields } from './planFields.tsx';
import { RuleChange, type Version } from './RuleChange.tsx';
import { newLimits, typeFields } from './typeFields.tsx';

type Plan = LeaveRulesView['plans'][number];

/** Where a type takes from, as the list has it. */
function fromWords({ takesFrom, balanceOf }: LeaveTypeRules, types: readonly LeaveTypeRules[]): string {
  switch (takesFrom) {
    case 'nothing':
      return 'from no balance';
    case 'plan':
      return 'from the plan';
    case 'earned':
      return 'from time earned';
    case 'other':
      return `from ${types.find(one => one.id === balanceOf)?.name.toLowerCase() ?? 'another type'}`;
    default:
      return takesFrom satisfies never;
  }
}

const versionsOf = <Rules,>(first: Rules, later: readonly { from: string; rules: Rules }[] = []): Version<Rules>[] => [
  { from: null, rules: first },
  ...(later as Version<Rules>[]),
];

const emptyType: LeaveTypeRules = {
  id: 'new',
  name: '',
  counting: 'scheduled',
  dayMinutes: 480,
  takesFrom: 'nothing',
  overdraft: 0,
};
const emptyPlan: PlanRules = {
  yearStart: '01-01',
  perYear: [{ fromServiceYears: 0, amount: 25 }],
  accrual: 'yearly',
  proration: 'monthly',
  rounding: { step: 0.5, mode: 'up' },
  carryOver: { max: 5, expires: '03-31' },
};

function NewLimit({ onAdd }: { onAdd: (n: number) => void }) {
  const [anchor, setAnchor] = useState<HTMLElement | null>(null);
  return (
    <>
      <Button size="small" aria-haspopup="menu" onClick={event => setAnchor(event.currentTarget)}>
        Another rule
      </Button>
      <Menu open={anchor !== null} anchorEl={anchor} onClose={() => setAnchor(null)}>
        {newLimits.map(({ words }, n) => (
          <MenuItem
            key={words}
            onClick={() => {
              setAnchor(null);
              onAdd(n);
            }}
          >
            {words}
          </MenuItem>
        ))}
      </Menu>
    </>
  );
}

type Own = { view: LeaveRulesView; onDone: () => void };

function TypeRules({ type, view, onDone }: Own & { type: LeaveType | null }) {
  const { later = [], ...first } = type ?? { ...emptyType };
  return (
    <RuleChange<LeaveTypeRules, TypeAbout>
      id={type?.id ?? null}
      name={type?.name ?? ''}
      kind="leave type"
      versions={versionsOf<LeaveTypeRules>(first, later)}
      today={view.today}
      mayKeep={view.mayKeep}
      sentencesOf={rules => typeSentences(rules, view.types)}
      fieldsOf={(rules, onChange, about) => typeFields({ rules, types: view.types, onChange }, about)}
      more={(rules, onChange) => (
        <NewLimit
          onAdd={n => {
            const added = newLimits[n];
            if (added) onChange({ ...rules, limits: [...(rules.limits ?? []), added.limit] });
          }}
        />
      )}
      changeOf={(name, rules, from) =>
        ({ what: 'leave type', type: { ...rules, id: type?.id ?? 'new', name }, from }) as unknown as HouseChange
      }
      faultAt={about => (about === 'takesFrom' ? 'balanceOf' : about)}
      onDone={onDone}
    />
  );
}

function PlanRulesOf({ plan, view, onDone }: Own & { plan: Plan | null }) {
  const [unit, setUnit] = useState<'days' | 'hours'>(plan?.unit ?? 'days');
  const { later = [], ...first } = plan?.rules ?? { ...emptyPlan };
  return (
    <RuleChange<PlanRules, PlanAbout>
      id={plan?.id ?? null}
      name={plan?.name ?? ''}
      kind="leave plan"
      versions={versionsOf<PlanRules>(first, later)}
      today={view.today}
      mayKeep={view.mayKeep}
      sentencesOf={rules => planSentences(rules, unit, view.types)}
      fieldsOf={(rules, onChange, about) =>
        planFields({ rules, types: view.types, isNew: plan === null, onChange }, about)
      }
      {...(plan === null
        ? {
            more: () => (
              <ChoiceField
                label="In"
                value={unit}
                options={[
                  { id: 'days', name: 'days' },
                  { id: 'hours', name: 'hours' },
                ]}
                onChange={id => setUnit(id as 'days' | 'hours')}
              />
            ),
          }
        : {})}
      changeOf={(name, rules, from) =>
        ({ what: 'leave plan', plan: { id: plan?.id ?? 'new', name, unit, rules }, from }) as unknown as HouseChange
      }
      faultAt={about => about}
      onDone={onDone}
    />
  );
}

function Rules({ view }: { view: LeaveRulesView }) {
  const [search, setSearch] = useSearchParams();
  const chosen = search.get('rule') ?? `type:${view.types[0]?.id ?? 'new'}`;
  const choose = (rule: string) => setSearch({ rule }, { replace: true });
  const colon = chosen.indexOf(':');
  const [kind, id] = [chosen.slice(0, colon), chosen.slice(colon + 1)];
  const done = () => {
    queryClient.invalidateQueries({ queryKey: ['leave'] });
    if (id === 'new') setSearch({}, { replace: true });
  };
  const people = (n: number) => (n === 1 ? 'one person' : `${n} people`);
  const heading = (words: string, rule: string) => (
    <Box sx={{ display: 'flex', alignItems: 'baseline', mt: 2, mb: 0.5 }}>
      <Typography variant="h3" component="h2" sx={{ flex: 1 }}>
        {words}
      </Typography>
      {view.mayKeep && (
        <Button size="small" onClick={() => choose(`${rule}:new`)}>
          New
        </Button>
      )}
    </Box>
  );
  const shown = () => {
    const key = `${chosen} ${JSON.stringify(view)}`;
    if (kind === 'type') {
      const type = view.types.find(one => one.id === id) ?? null;
      if (type || id === 'new') return <TypeRules key={key} type={type} view={view} onDone={done} />;
    }
    if (kind === 'plan') {
      const plan = view.plans.find(one => one.id === id) ?? null;
      if (plan || id === 'new') return <PlanRulesOf key={key} plan={plan} view={view} onDone={done} />;
    }
    if (kind === 'here') {
      const one = view.presence.find(p => p.id === id) ?? null;
      if (one || id === 'new') return <PresenceChange key={key} one={one} view={view} onDone={done} />;
    }
    return <Empty title="There is no such rule">Choose one of those beside.</Empty>;
  };
  return (
    <Beside
      list={
        <>
          {heading('Leave types', 'type')}
          <Names
            label="Leave types"
            chosen={kind === 'type' ? id : null}
            onChoose={one => choose(`type:${one}`)}
            rows={view.types.map(one => ({
              id: one.id,
              name: one.name,
              note: fromWords(typeOn(one, view.today), view.types),
            }))}
          />
          {heading('Leave plans', 'plan')}
          <Names
            label="Leave plans"
            chosen={kind === 'plan' ? id : null}
            onChoose={one => choose(`plan:${one}`)}
            rows={view.plans.map(one => ({
              id: one.id,
              name: one.name,
              note: `in ${one.unit}, ${people(one.people)}`,
            }))}
          />
          {heading('Needed here', 'here')}
          {view.presence.length === 0 ? (
            <Typography variant="body2" color="textSecondary">
              Nowhere a least number is said.
            </Typography>
          ) : (
            <Names
              label="Needed here"
              chosen={kind === 'here' ? id : null}
              onChoose={one => choose(`here:${one}`)}
              rows={view.presence.map(one => ({ id: one.id, name: one.name, note: `${one.people} of ${one.there}` }))}
            />
          )}
        </>
      }
    >
      {shown()}
    </Beside>
  );
}

export function LeaveRulesPlace() {
  const found = useQuery(leaveRulesQuery);
  return (
    <HouseFrame
      title="Leave rules"
      sub="What each kind of leave counts, what is earned, and what is kept to. Everybody may read them."
    >
      <Loaded query={found}>{view => <Rules view={view} />}</Loaded>
    </HouseFrame>
  );
}
