/** A leave type or a plan through time: what it says, from when, and what would follow were it to say something else. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Link from '@mui/material/Link';
import TextField from '@mui/material/TextField';
import Typography from '@mui/material/Typography';
import type { HouseChange } from '@north-pebble/core/facts';
import type { RuleSentence } from '@north-pebble/core/leave';
import { type CivilDate, fullDate } from '@north-pebble/core/time';
import { type ReactNode, useState } from 'react';
import { ChangeEnd } from '../../../parts/change/ChangeEnd.tsx';
import { ChoiceField } from '../../../parts/change/ChoiceField.tsx';
import { useChange } from '../../../parts/change/useChange.ts';
import { DayField } from '../../../parts/form/DayField.tsx';
import { RuleSentences } from './RuleSentences.tsx';

export type Version<Rules> = { readonly from: CivilDate | null; readonly rules: Rules };

type Props<Rules, About extends string> = {
  /** Its id, or nothing for a new one. */
  id: string | null;
  name: string;
  kind: 'leave type' | 'leave plan';
  versions: readonly Version<Rules>[];
  today: CivilDate;
  mayKeep: boolean;
  sentencesOf: (rules: Rules) => readonly RuleSentence<About>[];
  fieldsOf: (rules: Rules, onChange: (rules: Rules) => void, about: About) => ReactNode;
  /** What stands beneath the sentences: another limit, the unit of a new plan. */
  more?: (rules: Rules, onChange: (rules: Rules) => void) => ReactNode;
  changeOf: (name: string, rules: Rules, from: CivilDate | null) => HouseChange;
  /** The end of the fields that a fault of a sentence is told at. */
  faultAt: (about: About) => string;
  onDone: () => void;
};

/** The version that holds on a day. */
export const holdingOn = <Rules,>(versions: readonly Version<Rules>[], day: CivilDate): number =>
  versions.findLastIndex(version => version.from === null || version.from <= day);

export function RuleChange<Rules, About extends string>(props: Props<Rules, About>) {
  const { id, kind, versions, today, mayKeep, sentencesOf, fieldsOf, more, changeOf, faultAt, onDone } = props;
  const [at, setAt] = useState(Math.max(0, holdingOn(versions, today)));
  const version = versions[at] as Version<Rules>;
  const [name, setName] = useState(props.name);
  const [rules, setRules] = useState(version.rules);
  const [when, setWhen] = useState<'from' | 'always'>(id === null ? 'always' : 'from');
  const [from, setFrom] = useState('');
  const isOther = id === null || name !== props.name || JSON.stringify(rules) !== JSON.stringify(version.rules);
  const day = when === 'always' ? version.from : ((from || null) as CivilDate | null);
  const isWhole = name.trim() !== '' && (when === 'always' || from !== '');
  const change = isOther && isWhole ? changeOf(name.trim(), rules, day) : null;
  const changing = useChange(change, onDone);
  const back = useChange(
    version.from === null || id === null
      ? null
      : ({ what: 'not from then', of: kind, id, from: version.from } as unknown as HouseChange),
    onDone,
  );
  const [drops, setDrops] = useState(false);
  const choose = (n: number) => {
    setAt(n);
    setRules((versions[n] as Version<Rules>).rules);
    setDrops(false);
    changing.anew();
  };
  const put = changing.put(setRules);
  const said = new Set(id === null ? [] : sentencesOf(version.rules).map(({ text }) => text));
  const holds = holdingOn(versions, today);
  return (
    <Box component="section" aria-label={id === null ? `A new ${kind}` : props.name}>
      <Typography variant="h2" sx={{ mb: 1 }}>
        {id === null ? `A new ${kind}` : props.name}
      </Typography>
      {versions.length > 1 && (
        <Box sx={{ display: 'flex', gap: 1, flexWrap: 'wrap', mb: 1.5 }} role="group" aria-label="Through time">
          {versions.map((one, n) => (
            <Button
              key={one.from ?? 'first'}
              size="small"
              variant={n === at ? 'contained' : 'outlined'}
              aria-pressed={n === at}
              onClick={() => choose(n)}
            >
              {one.from === null ? 'From the first' : `From ${fullDate(one.from)}`}
              {n === holds && ', holds today'}
            </Button>
          ))}
        </Box>
      )}
      <Box component="form" onSubmit={changing.send} aria-label={`What ${props.name || 'it'} says`}>
        {mayKeep && (
          <TextField
            label="Name"
            value={name}
            onChange={event => changing.put(setName)(event.target.value)}
            error={changing.faultOf('name') !== undefined}
            helperText={changing.faultOf('name')}
            autoComplete="off"
            sx={{ mb: 2, width: 280 }}
          />
        )}
        <RuleSentences
          label="Rules"
          sentences={sentencesOf(rules)}
          fields={mayKeep ? about => fieldsOf(rules, put, about) : null}
          isOther={text => id !== null && !said.has(text)}
          faultOf={about => changing.faultOf(faultAt(about))}
        />
        {mayKeep && more && <Box sx={{ mt: 1.5 }}>{more(rules, put)}</Box>}
        {mayKeep && isOther && (
          <Box sx={{ display: 'grid', gap: 2, mt: 2.5, maxWidth: 640 }}>
            {id !== null && (
              <Box sx={{ display: 'flex', gap: 1.5, flexWrap: 'wrap', alignItems: 'start' }}>
                <ChoiceField
                  label="It says so"
                  value={when}
                  options={[
                    { id: 'from', name: 'from a day on' },
                    {
                      id: 'always',
                      name:
                        version.from === null
                          ? 'as it always should have'
                          : `already from ${fullDate(version.from)} on`,
                    },
                  ]}
                  onChange={changing.put(value => setWhen(value as 'from' | 'always'))}
                />
                {when === 'from' && (
                  <Box sx={{ width: 220 }}>
                    <DayField
                      label="From"
                      date={from}
                      onDate={changing.put(setFrom)}
                      fault={changing.faultOf('from') !== undefined}
                      help={changing.faultOf('from') ?? ''}
                    />
                  </Box>
                )}
              </Box>
            )}
            <ChangeEnd
              changing={changing}
              verb="Save what it says"
              onCancel={() => {
                setRules(version.rules);
                setName(props.name);
                changing.anew();
                if (id === null) onDone();
              }}
            />
          </Box>
        )}
      </Box>
      {mayKeep && version.from !== null && !isOther && (
        <Box sx={{ mt: 2 }}>
          {drops ? (
            <Box component="form" onSubmit={back.send} sx={{ display: 'grid', gap: 2, maxWidth: 640 }}>
              <ChangeEnd changing={back} verb="Take it away" onCancel={() => setDrops(false)} />
            </Box>
          ) : (
            <Link component="button" type="button" onClick={() => setDrops(true)}>
              Take away what it says from {fullDate(version.from)} on
            </Link>
          )}
        </Box>
      )}
    </Box>
  );
}
