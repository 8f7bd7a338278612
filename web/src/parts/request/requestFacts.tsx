/** The facts of a request: answers in words, figures with their reasons, who else is away, where it stands. */
import type { RequestView } from '@north-pebble/contract';
import { answerWords, type Naming, rowById } from '@north-pebble/core/form';
import {
  currencyOf,
  type Figure,
  figureReason,
  figuresToTell,
  figureWords,
  isBalanceFigure,
} from '@north-pebble/core/workflow';
import { useHere, yearHere } from '../frame/session.ts';
import { Why } from '../Why.tsx';
import { AnswerWords, ClosedAnswer } from './Answer.tsx';
import { Fact, Facts } from './Facts.tsx';
import { BalanceWhy, balanceWords, DaysWhy } from './leave/LeaveWhy.tsx';
import { TeamStrip } from './leave/TeamStrip.tsx';

export function RequestFacts({ request }: { request: RequestView }) {
  const here = useHere();
  const { self } = here;
  const { definition, leave } = request;
  const naming: Naming = {
    year: yearHere(here),
    leaveType: id => request.leaveTypes.find(t => t.id === id)?.name ?? id,
    person: id => request.people.find(p => p.id === id)?.name ?? id,
    row: (list, id) =>
      rowById(
        request.lists.find(l => l.id === list),
        id,
      )?.title ?? id,
  };
  const takesFromNone = (id: string) => request.leaveTypes.find(t => t.id === id)?.hasBalance === false;
  const isDays = (figure: Figure) => /^leave days\(/.test(figure.formula);
  return (
    <Facts>
      {definition.form.fields.map(field => {
        const change = request.changes.find(c => c.field === field.id);
        const answer = request.answers[field.id];
        const closed = request.closed.find(c => c.field === field.id);
        if (closed) {
          return (
            <Fact key={field.id} label={field.label}>
              <ClosedAnswer request={request} field={field} sight={closed.sight} naming={naming} />
            </Fact>
          );
        }
        if ((answer === null || answer === undefined) && !change) return null;
        return (
          <Fact key={field.id} label={field.label} was={change ? answerWords(field, change.before, naming) : undefined}>
            <AnswerWords field={field} answer={answer} naming={naming} />
          </Fact>
        );
      })}
      {figuresToTell(definition, request.answers, takesFromNone)
        .filter(figure => figure.id in request.figures)
        .map(figure => (
          <Fact key={figure.id} label={isBalanceFigure(figure) && leave?.balance ? 'Balance' : figure.name}>
            {isBalanceFigure(figure) && leave?.balance ? (
              <>
                {balanceWords(leave.balance, yearHere(here))}
                <BalanceWhy ahead={leave.balance} />
              </>
            ) : (
              <>
                {figureWords(figure, request.figures[figure.id], currencyOf(definition))}
                {isDays(figure) && leave && (
                  <DaysWhy
                    days={leave.days}
                    total={figureWords(figure, request.figures[figure.id], currencyOf(definition))}
                  />
                )}
                {!isDays(figure) && (
                  <>
                    {' '}
                    <Why about={figure.name}>{figureReason(definition, figure)}</Why>
                  </>
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
