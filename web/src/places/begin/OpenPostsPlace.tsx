/** The public page of open posts: what anybody may read of them, signed in or not. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import Typography from '@mui/material/Typography';
import { fullDate } from '@north-pebble/core/time';
import { useQuery } from '@tanstack/react-query';
import { call } from '../../api/client.ts';
import { Empty, Loaded } from '../../parts/Page.tsx';

export function OpenPostsPlace() {
  const posts = useQuery({ queryKey: ['open-posts'], queryFn: () => call('GET /open-posts') });
  return (
    <Box component="main" sx={{ maxWidth: 720, mx: 'auto', px: 3, py: { xs: 4, md: 7 } }}>
      <Loaded query={posts}>
        {({ house, posts: open }) => (
          <>
            <Typography variant="h1" sx={{ fontSize: { xs: 28, md: 36 } }}>
              Open posts
            </Typography>
            <Typography color="textSecondary" sx={{ mb: 3 }}>
              {house}
            </Typography>
            {open.length === 0 && <Empty title="No post is open now">What opens next stands here.</Empty>}
            {open.map((post, n) => (
              <Box
                // biome-ignore lint/suspicious/noArrayIndexKey: two posts may have one title, and nothing else is told of which is which
                key={`${n} ${post.title}`}
                component="article"
                sx={{ py: 2, borderTop: '1px solid', borderColor: 'divider' }}
                aria-label={post.title}
              >
                <Typography variant="h2" sx={{ fontSize: 20 }}>
                  {post.title}
                </Typography>
                {post.said.map(({ label, words }) => (
                  <Typography key={label} sx={{ whiteSpace: 'pre-wrap', overflowWrap: 'anywhere' }}>
                    <Box component="span" sx={{ color: 'text.secondary' }}>
                      {label}:
                    </Box>{' '}
                    {words}
                  </Typography>
                ))}
                {post.until && (
                  <Typography color="textSecondary">Open until {fullDate(post.until as never)}.</Typography>
                )}
                {post.apply && (
                  <Button
                    variant="contained"
                    color="primary"
                    href={post.apply}
                    aria-label={`Apply for ${post.title}`}
                    sx={{ mt: 1.25, minHeight: 44 }}
                  >
                    Apply
                  </Button>
                )}
              </Box>
            ))}
          </>
        )}
      </Loaded>
    </Box>
  );
}
