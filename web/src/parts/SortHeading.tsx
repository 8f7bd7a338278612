/** The heading of a column by which rows can be sorted: pressed again, the other way round. */
import Link from '@mui/material/Link';

export type Sorted<By extends string> = { by: string; down: boolean; onSort: (by: By) => void };

type Props<By extends string> = {
  by: By;
  words: string;
  /** What the column says, for whoever points at it. */
  title?: string;
  sorted: Sorted<By>;
};

export function SortHeading<By extends string>({ by, words, title, sorted }: Props<By>) {
  const isOwn = sorted.by === by;
  const how = sorted.down ? ', from the end just now' : ', from the beginning just now';
  return (
    <Link
      component="button"
      type="button"
      {...(title ? { title } : {})}
      onClick={() => sorted.onSort(by)}
      aria-label={`Sort by ${words}${isOwn ? how : ''}`}
      sx={{
        font: 'inherit',
        color: isOwn ? 'text.primary' : 'inherit',
        fontWeight: isOwn ? 650 : 'inherit',
        textDecoration: 'none',
      }}
    >
      {words} {isOwn && (sorted.down ? '↑' : '↓')}
    </Link>
  );
}
