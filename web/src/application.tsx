import { lazy, Suspense } from 'react';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Frame } from './frame/frame';
import { LostPage, Unreachable, Waiting } from './frame/states';
import { SessionProvider, useSessionAnswer, type Arrival } from './sessions/session';

const SignInPage = lazy(() => import('./sessions/sign-in-page'));
const FirstRunPage = lazy(() => import('./sessions/first-run-page'));

/** Each page is a bundle of its own, fetched when it is first gone to. */
const router = createBrowserRouter([
  {
    element: <Frame />,
    HydrateFallback: Waiting,
    children: [
      { index: true, lazy: () => import('./activities/today-page') },
      { path: 'activities', lazy: () => import('./activities/activities-page') },
      { path: 'bin', lazy: () => import('./bin/bin-page') },
      { path: 'duplicates', lazy: () => import('./duplicates/duplicates-page') },
      { path: 'changes', lazy: () => import('./changes/changes-page') },
      { path: 'leads', lazy: () => import('./leads/leads-page') },
      { path: 'contacts', lazy: () => import('./people/contacts-page') },
      { path: 'accounts', lazy: () => import('./people/accounts-page') },
      { path: 'deals', lazy: () => import('./deals/deals-page') },
      { path: 'setup/assignment', lazy: () => import('./assignment/assignment-page') },
      { path: 'setup/fields', lazy: () => import('./setup/fields-page') },
      { path: 'setup/scores', lazy: () => import('./setup/scores-page') },
      { path: 'setup/conversion', lazy: () => import('./setup/conversion-page') },
      { path: 'setup/tags', lazy: () => import('./setup/tags-page') },
      { path: 'setup/choices', lazy: () => import('./setup/choices-page') },
      { path: 'setup/mail', lazy: () => import('./mail/mail-capture-page') },
      { path: 'tokens', lazy: () => import('./tokens/tokens-page') },
      { path: 'notices', lazy: () => import('./notices/notices-page') },
      { path: 'imports', lazy: () => import('./imports/imports-page') },
      { path: 'forms', lazy: () => import('./forms/forms-page') },
      { path: 'forms/:id', lazy: () => import('./forms/form-page') },
      { path: 'team', lazy: () => import('./team/team-page') },
      { path: ':objects/:id', lazy: () => import('./records/record-page') },
      { path: '*', element: <LostPage /> },
    ],
  },
]);

/** The whole application: the sign-in, or the first run, or the frame with its pages. */
export function Application() {
  const { answer, error, refetch, enter } = useSessionAnswer();
  if (error && !answer) return <Unreachable retry={() => void refetch()} />;
  if (!answer) return <Waiting />;
  if (answer.signedIn) {
    return (
      <SessionProvider signedIn={answer}>
        <RouterProvider router={router} />
      </SessionProvider>
    );
  }
  return (
    <Suspense fallback={<Waiting />}>
      {answer.organisationExists ? (
        <SignInPage arrival={answer as Arrival} enter={enter} />
      ) : (
        <FirstRunPage created={() => void refetch()} />
      )}
    </Suspense>
  );
}
