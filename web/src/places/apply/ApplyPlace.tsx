/** The form at a public address, for somebody without an account: filled in, sent, and what happens then. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import type { FormOutside, PublicAsked } from '@north-pebble/contract';
import { type CivilDate, fullDate } from '@north-pebble/core/time';
import { useEffect, useRef, useState } from 'react';
import { call, problemOf } from '../../api/client.ts';
import { GuestField, missingOf } from '../../parts/guest/GuestField.tsx';
import { FailureNote, Note } from '../../parts/Notes.tsx';
import { forget, fresh, type Kept, keep, readKept } from './kept.ts';

/** What stands behind the `#` of the address: where it is sent, and what was chosen on the way, as one of the open posts. */
const here = (): { token: string; chosen: string | null } => {
  const [token, chosen = null] = window.location.hash.slice(1).split('.');
  return { token, chosen };
};

/** Where nothing was chosen yet, what was chosen on the way stands in the field that offers it. */
function withChosen(kept: Kept, form: FormOutside, chosen: string | null): Kept {
  const list = form.lists.find(one => one.rows.some(row => row.id === chosen));
  const field = form.sections
    .flatMap(section => section.fields)
    .find(one => one.field.kind === 'pick' && one.field.list === list?.id)?.field;
  return field && chosen !== null ? { ...kept, answers: { ...kept.answers, [field.id]: chosen } } : kept;
}

const pause = 400;

/** The form with these answers; other fields may be asked of somebody who answers otherwise. */
function useAsked(token: string, form: FormOutside, answers: Kept['answers']): PublicAsked['sections'] {
  const [sections, setSections] = useState(form.sections);
  useEffect(() => {
    if (!form.changes) return;
    const aborted = new AbortController();
    const timer = setTimeout(() => {
      call('POST /public/:token/asked', { params: { token }, body: { answers }, signal: aborted.signal })
        .then(found => setSections(found.sections))
        // Sending it says what is wrong; until then the form stays as it was.
        .catch(() => undefined);
    }, pause);
    return () => {
      clearTimeout(timer);
      aborted.abort();
    };
  }, [token, form.changes, answers]);
  return sections;
}

/** A line that nobody sees or comes to by keys: only what fills in everything fills it in. */
function Unseen({ onType }: { onType: (text: string) => void }) {
  return (
    <Box aria-hidden="true" sx={{ position: 'absolute', left: '-9999px', width: 1, height: 1, overflow: 'hidden' }}>
      <label>
        Leave this empty
        <input
          type="text"
          name="website"
          tabIndex={-1}
          autoComplete="off"
          onChange={event => onType(event.target.value)}
        />
      </label>
    </Box>
  );
}

type FormProps = { token: string; chosen: string | null; form: FormOutside; onSent: (mail: string) => void };

function Form({ token, chosen, form, onSent }: FormProps) {
  const [kept, setKept] = useState(() => withChosen(readKept(token), form, chosen));
  const [stays, setStays] = useState(true);
  const [tried, setTried] = useState(false);
  const [website, setWebsite] = useState('');
  const page = useRef<HTMLFormElement>(null);
  const { answers } = kept;
  const sections = useAsked(token, form, answers);
  const fields = sections.flatMap(section => section.fields.map(one => ({ ...one, readBy: '' })));
  const missing = missingOf(fields, answers);
  const put = (next: Kept) => {
    setKept(next);
    setStays(keep(token, next));
  };
  const [sending, setSending] = useState<{ busy: boolean; fault: unknown }>({ busy: false, fault: null });
  const send = async () => {
    setSending({ busy: true, fault: null });
    const asked = new Set(fields.map(({ field }) => field.id));
    const given = Object.fromEntries(
      Object.entries(answers).filter(([id, value]) => asked.has(id) && value !== null && value !== ''),
    );
    try {
      const body = { id: kept.id, answers: given, website };
      const { mail } = await call('POST /public/:token', { params: { token }, body });
      forget(token);
      onSent(mail);
    } catch (fault) {
      setSending({ busy: false, fault });
    }
  };
  const problem = problemOf(sending.fault);
  const faultOf = (id: string, label: string): string | undefined =>
    problem?.faults?.find(one => one.field === id)?.message ??
    (tried && missing.includes(label) ? 'This is needed.' : undefined);
  const other = problem && !problem.faults?.some(one => fields.some(({ field }) => field.id === one.field));
  const goTo = (id: string | undefined) => {
    const place = id && page.current?.querySelector(`[data-field="${id}"]`);
    if (!place) return;
    place.scrollIntoView({ block: 'center', behavior: 'smooth' });
    place.querySelector<HTMLElement>('input, select, textarea, button')?.focus({ preventScroll: true });
  };
  const [first] = problem?.faults ?? [];
  // biome-ignore lint/correctness/useExhaustiveDependencies: once for each answer of the server, not at every key
  useEffect(() => goTo(first?.field), [first]);
  const view = { lists: form.lists } as never;
  return (
    <form
      ref={page}
      noValidate
      onSubmit={event => {
        event.preventDefault();
        setTried(true);
        if (missing.length === 0) void send();
        else goTo(fields.find(({ field }) => field.label === missing[0])?.field.id);
      }}
    >
      {sections.map(section => (
        <Box
          key={section.id}
          component="section"
          aria-label={section.title}
          sx={{
            bgcolor: 'background.paper',
            border: '1px solid',
            borderColor: 'divider',
            borderRadius: '16px',
            p: { xs: 2, sm: 2.5 },
            my: 1.75,
          }}
        >
          <Typography variant="h2" sx={{ fontSize: 18, mb: section.help ? 0.5 : 2 }}>
            {section.title}
          </Typography>
          {section.help && (
            <Typography variant="body2" color="textSecondary" sx={{ mb: 2 }}>
              {section.help}
            </Typography>
          )}
          <Box sx={{ display: 'grid', gap: 2.5 }}>
            {section.fields.map(({ field, needed }) => (
              <Box key={field.id} data-field={field.id} sx={{ minWidth: 0 }}>
                <GuestField
                  field={field}
                  needed={needed}
                  readBy=""
                  value={answers[field.id]}
                  fault={faultOf(field.id, field.label)}
                  token=""
                  view={view}
                  onType={value => put({ ...kept, answers: { ...answers, [field.id]: value } })}
                  onSigned={() => undefined}
                  reading={null}
                  onReading={() => undefined}
                  {...(field.id === form.who.name
                    ? { line: 'name' as const }
                    : field.id === form.who.mail
                      ? { line: 'email' as const }
                      : {})}
                />
              </Box>
            ))}
          </Box>
        </Box>
      ))}
      <Unseen onType={setWebsite} />
      {tried && missing.length > 0 && (
        <Note tone="waiting" title={`Still missing: ${missing.join(', ')}`}>
          You can send this once it is here.
        </Note>
      )}
      {other && <FailureNote fault={sending.fault} />}
      <Button
        type="submit"
        fullWidth
        variant="contained"
        color="primary"
        disabled={sending.busy}
        sx={{ minHeight: 52, borderRadius: '13px', fontSize: 16.5 }}
      >
        {sending.busy ? 'Sending …' : form.later.length > 0 ? 'Send, and go on by mail' : 'Send'}
      </Button>
      <Typography variant="body2" color="textSecondary" sx={{ mt: 1.25 }}>
        {form.later.length > 0
          ? `We send a link to the mail address that you give. There you go on with: ${form.later.join(', ')}. You may stop at any time and go on later, on another device too.`
          : 'We write to the mail address that you give, with a link to a page of your own.'}
        {form.keptMonths !== null &&
          ` Everything that you give is deleted ${form.keptMonths === 1 ? 'a month' : `${form.keptMonths} months`} after this has come to its end.`}
      </Typography>
      <Typography variant="body2" color="textSecondary" role="status" sx={{ mt: 1 }}>
        {stays
          ? 'What you type stays in this browser until it is sent. '
          : 'This browser keeps nothing: what you type is lost when you close the page.'}
        {stays && Object.keys(answers).length > 0 && (
          <Button
            size="small"
            onClick={() => {
              forget(token);
              setKept(fresh());
              setTried(false);
              setSending({ busy: false, fault: null });
            }}
          >
            Clear it
          </Button>
        )}
      </Typography>
    </form>
  );
}

function Sent({ form, mail }: { form: FormOutside; mail: string }) {
  const head = useRef<HTMLHeadingElement>(null);
  useEffect(() => head.current?.focus(), []);
  return (
    <>
      <Typography variant="h1" ref={head} tabIndex={-1} sx={{ fontSize: 24, mt: 0.5, mb: 2, outline: 'none' }}>
        It is here. Look into your mail.
      </Typography>
      <Note tone="good" title={`A link is on its way to ${mail}`} role="status">
        {form.later.length > 0
          ? `Open it and go on with: ${form.later.join(', ')}. It is not complete before that.`
          : 'It opens a page of your own, on which you see what is asked of you and may ask in turn.'}
      </Note>
      <Typography variant="body2" color="textSecondary">
        No mail after some minutes? Look among the unwanted mails, or reload this page and send it again with the right
        address.
      </Typography>
    </>
  );
}

export function ApplyPlace() {
  const [{ token, chosen }] = useState(here);
  const [mail, setMail] = useState<string | null>(null);
  const [form, setForm] = useState<FormOutside | null>(null);
  const [fault, setFault] = useState<unknown>(null);
  useEffect(() => {
    call('GET /public/:token', { params: { token } }).then(setForm, setFault);
  }, [token]);
  useEffect(() => {
    if (form) document.title = `${form.name}, ${form.house}`;
  }, [form]);
  return (
    <Box component="main" sx={{ maxWidth: 560, mx: 'auto', px: 2.5, py: 2.25, minHeight: '100vh' }}>
      {!form && fault === null && <Typography color="textSecondary">One moment …</Typography>}
      {fault !== null && (
        <Box sx={{ pt: 6 }}>
          <Typography variant="h1" sx={{ mb: 2 }}>
            This page does not open
          </Typography>
          <FailureNote fault={fault} />
        </Box>
      )}
      {form && (
        <Typography variant="body2" color="textSecondary">
          {form.house}
        </Typography>
      )}
      {form && mail !== null && <Sent form={form} mail={mail} />}
      {form && mail === null && (
        <>
          <Typography variant="h1" sx={{ fontSize: 24, mt: 0.5, overflowWrap: 'anywhere' }}>
            {form.name}
          </Typography>
          <Typography variant="body2" color="textSecondary" sx={{ mt: 0.5 }}>
            {form.purpose}
            {form.until && form.shut === null && ` It can be sent until ${fullDate(form.until as CivilDate)}.`}
          </Typography>
          {form.shut === null ? (
            <Form token={token} chosen={chosen} form={form} onSent={setMail} />
          ) : (
            <Box sx={{ mt: 2 }}>
              <Note tone="waiting" title={form.shut} />
            </Box>
          )}
        </>
      )}
    </Box>
  );
}
