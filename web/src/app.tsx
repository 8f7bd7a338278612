/** The places and their addresses. Each place is loaded when it is first opened. */
import Box from '@mui/material/Box';
import Button from '@mui/material/Button';
import { createBrowserRouter, Navigate, useLocation, useNavigate, useRouteError } from 'react-router';
import { fetched } from './api/fetched.ts';
import { Empty, Page } from './parts/Page.tsx';
import { Shell } from './Shell.tsx';

/** In place of a page; the frame around it stays, and the page is asked for again where it stood. */
function Broken() {
  const fault = useRouteError();
  const navigate = useNavigate();
  const { pathname, search, hash } = useLocation();
  return (
    <Page title="This page broke">
      <Empty title="Something went wrong on this page">
        Nothing that was saved is lost. Try again; if it breaks again, tell HR operations:{' '}
        {fault instanceof Error ? fault.message : String(fault)}
        <Box sx={{ mt: 2 }}>
          <Button variant="outlined" onClick={() => navigate(`${pathname}${search}${hash}`, { replace: true })}>
            Try again
          </Button>
        </Box>
      </Empty>
    </Page>
  );
}

const Nothing = () => (
  <Page title="Nothing here">
    <Empty title="There is no such page">The address may be mistyped, or what was here is gone.</Empty>
  </Page>
);

export const router = createBrowserRouter([
  // Opened from outside, by people who are not signed in yet.
  {
    path: 'setup',
    errorElement: <Broken />,
    HydrateFallback: () => null,
    lazy: async () => ({ Component: (await fetched(() => import('./places/begin/SetUpPlace.tsx'))).SetUpPlace }),
  },
  {
    path: 'link',
    errorElement: <Broken />,
    HydrateFallback: () => null,
    lazy: async () => ({ Component: (await fetched(() => import('./places/begin/LinkPlace.tsx'))).LinkPlace }),
  },
  {
    path: 'open-posts',
    errorElement: <Broken />,
    HydrateFallback: () => null,
    lazy: async () => ({
      Component: (await fetched(() => import('./places/begin/OpenPostsPlace.tsx'))).OpenPostsPlace,
    }),
  },
  {
    path: 'first',
    errorElement: <Broken />,
    HydrateFallback: () => null,
    lazy: async () => ({
      Component: (await fetched(() => import('./places/begin/FirstPasswordPlace.tsx'))).FirstPasswordPlace,
    }),
  },
  {
    element: <Shell />,
    errorElement: <Broken />,
    HydrateFallback: () => null,
    children: [
      // What breaks inside leaves the frame as it is.
      {
        errorElement: <Broken />,
        children: [
          { index: true, element: <Navigate to="/desk" replace /> },
          {
            path: 'desk',
            lazy: async () => ({ Component: (await fetched(() => import('./places/desk/DeskPlace.tsx'))).DeskPlace }),
          },
          {
            path: 'requests',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/requests/RequestsPlace.tsx'))).RequestsPlace,
            }),
          },
          {
            path: 'requests/volume',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/requests/VolumePlace.tsx'))).VolumePlace,
            }),
          },
          {
            path: 'requests/plans',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/plans/PlansPlace.tsx'))).PlansPlace,
            }),
          },
          {
            path: 'requests/:id/plan',
            lazy: async () => ({ Component: (await fetched(() => import('./places/plans/PlanPlace.tsx'))).PlanPlace }),
          },
          {
            path: 'requests/:id',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/requests/RequestPlace.tsx'))).RequestPlace,
            }),
          },
          {
            path: 'ask/:workflow',
            lazy: async () => ({ Component: (await fetched(() => import('./places/requests/AskPlace.tsx'))).AskPlace }),
          },
          {
            path: 'stuck',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/stuck/StuckPlace.tsx'))).StuckPlace,
            }),
          },
          {
            path: 'account',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/accounts/OwnAccountPlace.tsx'))).OwnAccountPlace,
            }),
          },
          {
            path: 'accounts',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/accounts/AccountsPlace.tsx'))).AccountsPlace,
            }),
          },
          {
            path: 'connections',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/connections/ConnectionsPlace.tsx'))).ConnectionsPlace,
            }),
          },
          {
            path: 'connections/:name/differences',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/connections/DifferencesPlace.tsx'))).DifferencesPlace,
            }),
          },
          {
            path: 'cover',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/cover/CoverPlace.tsx'))).CoverPlace,
            }),
          },
          {
            path: 'mails',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/mails/MailsPlace.tsx'))).MailsPlace,
            }),
          },
          {
            path: 'people',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/people/PeoplePlace.tsx'))).PeoplePlace,
            }),
          },
          {
            path: 'people/lines',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/people/LinesPlace.tsx'))).LinesPlace,
            }),
          },
          {
            path: 'people/decides',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/people/DecidesPlace.tsx'))).DecidesPlace,
            }),
          },
          {
            path: 'people/moves',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/people/MovesPlace.tsx'))).MovesPlace,
            }),
          },
          {
            path: 'people/:person/hand-over',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/people/HandOverPlace.tsx'))).HandOverPlace,
            }),
          },
          {
            path: 'house/posts',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/posts/PostsPlace.tsx'))).PostsPlace,
            }),
          },
          {
            path: 'house/roles',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/RolesPlace.tsx'))).RolesPlace,
            }),
          },
          {
            path: 'house/patterns',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/patterns/PatternsPlace.tsx'))).PatternsPlace,
            }),
          },
          {
            path: 'house/calendars',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/calendars/CalendarsPlace.tsx'))).CalendarsPlace,
            }),
          },
          {
            path: 'house/leave',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/leave/LeaveRulesPlace.tsx'))).LeaveRulesPlace,
            }),
          },
          {
            path: 'house/shutdowns',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/ShutdownsPlace.tsx'))).ShutdownsPlace,
            }),
          },
          {
            path: 'house/lists',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/ListsPlace.tsx'))).ListsPlace,
            }),
          },
          {
            path: 'house/changes',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/ChangesPlace.tsx'))).ChangesPlace,
            }),
          },
          {
            path: 'house/moving',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/moving/MovingPlace.tsx'))).MovingPlace,
            }),
          },
          {
            path: 'house/deletions',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/house/DeletionsPlace.tsx'))).DeletionsPlace,
            }),
          },
          { path: 'house', element: <Navigate to="/house/posts" replace /> },
          {
            path: 'people/:person',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/people/PersonPlace.tsx'))).PersonPlace,
            }),
          },
          {
            path: 'papers',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/papers/PapersPlace.tsx'))).PapersPlace,
            }),
          },
          {
            path: 'reviews',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/reviews/ReviewsPlace.tsx'))).ReviewsPlace,
            }),
          },
          {
            path: 'planner',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/planner/PlannerPlace.tsx'))).PlannerPlace,
            }),
          },
          {
            path: 'balances',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/balances/BalancesPlace.tsx'))).BalancesPlace,
            }),
          },
          {
            path: 'wishes',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/wishes/WishesPlace.tsx'))).WishesPlace,
            }),
          },
          {
            path: 'wishes/:id',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/wishes/ComparePlace.tsx'))).ComparePlace,
            }),
          },
          {
            path: 'balances/coming',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/balances/ComingPlace.tsx'))).ComingPlace,
            }),
          },
          {
            path: 'balances/year-end',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/balances/YearEndPlace.tsx'))).YearEndPlace,
            }),
          },
          {
            path: 'balances/everyone',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/balances/EveryonePlace.tsx'))).EveryonePlace,
            }),
          },
          {
            path: 'workflows',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/workflows/shelf/ShelfPlace.tsx'))).ShelfPlace,
            }),
          },
          {
            path: 'workflows/:id',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/workflows/sheet/SheetPlace.tsx'))).SheetPlace,
            }),
          },
          {
            path: 'mailroom',
            lazy: async () => ({
              Component: (await fetched(() => import('./places/mailroom/MailroomPlace.tsx'))).MailroomPlace,
            }),
          },
          { path: '*', element: <Nothing /> },
        ],
      },
    ],
  },
]);
