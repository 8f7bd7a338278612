/** The facts of a request: answers in words, figures with their reasons, who else is away, where it stands. */
import type { RequestView } from '@north-pebble/contract';
import { amountOfUnit, amountWords } from '@north-pebble/core/time';
import { answerWords, type Figure, leaveTypeAnswer } from '@north-pebble/core/workflow';
import { Fact, Facts } from './Facts.tsx';
import { BalanceWhy, balanceWords, DaysWhy } from './LeaveWhy.tsx';
import { useHere } from './session.ts';
import { TeamStrip } from './TeamStrip.tsx';

function figureWords(figure: Figure, value: unknown): string {
  if (typeof value === 'number') return figure.unit === 'days' ? amountOfUnit(value, 'days') : amountWords(value);
  if (typeof value === 'boolean') return value ? 'yes' : 'no';
  return value === null || value === undefined ? 'not known' : String(value);
}

export function RequestFacts({ request }: { request: RequestView }) {
  const { self } = useHere();
  const { definition, leave } = request;
  const typeName = (id: string) => request.leaveTypes.find(t => t.id === id)?.name ?? id;
  const chosen = leaveTypeAnswer(definition, request.answers);
  const hasNoBalance = request.leaveTypes.find(t => t.id === chosen)?.hasBalance === false;
  const isBalance = (figure: Figure) => /^balance after\(/.test(figure.formula);
  const isDays = (figure: Figure) => /^leave days\(/.test(figure.formula);
  return (
    <Facts>
      {definition.form.fields.map(field => {
        const change = request.changes.find(c => c.field === field.id);
        const answer = request.answers[field.id];
        if (answer === null && !change) return null;
        return (
          <Fact
            key={field.id}
            label={field.label}
            was={change ? answerWords(field, change.before, typeName) : undefined}
          >
            {answerWords(field, answer, typeName)}
          </Fact>
        );
      })}
      {definition.figures
        .filter(figure => !(isBalance(figure) && hasNoBalance))
        .map(figure => (
          <Fact key={figure.id} label={isBalance(figure) && leave?.balance ? 'Balance' : figure.name}>
            {isBalance(figure) && leave?.balance ? (
              <>
                {balanceWords(leave.balance)}
                <BalanceWhy ahead={leave.balance} />
              </>
            ) : (
              <>
                {figureWords(figure, request.figures[figure.id])}
                {isDays(figure) && leave && (
                  <DaysWhy days={leave.days} total={figureWords(figure, request.figures[figure.id])} />
                )}
              </>
            )}
          </Fact>
        ))}
      {request.team && (
        <Fact label="Team">
          <TeamStrip team={request.team} />
        </Fact>
      )}
      {request.returned && (
        <Fact
          label={
            request.returned.byName === self.name ? 'Your note' : `${request.returned.byName.split(' ')[0]}’s note`
          }
        >
          “{request.returned.note}”
        </Fact>
      )}
    </Facts>
  );
}
