import { lazy, Suspense } from 'react';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { Frame } from './kernel/shell/frame';
import { LostPage, Unreachable, Waiting } from './platform/frame/states';
import { SessionProvider, useSessionAnswer, type Arrival } from './platform/sessions/session';

const SignInPage = lazy(() => import('./platform/sessions/sign-in-page'));
const FirstRunPage = lazy(() => import('./platform/sessions/first-run-page'));

/** Each page is a bundle of its own, fetched when it is first gone to. */
const router = createBrowserRouter([
  {
    element: <Frame />,
    HydrateFallback: Waiting,
    children: [
      { index: true, lazy: () => import('./features/activities/today-page') },
      { path: 'activities', lazy: () => import('./features/activities/activities-page') },
      { path: 'bin', lazy: () => import('./kernel/bin/bin-page') },
      { path: 'duplicates', lazy: () => import('./features/duplicates/duplicates-page') },
      { path: 'changes', lazy: () => import('./kernel/changes/changes-page') },
      { path: 'leads', lazy: () => import('./features/leads/leads-page') },
      { path: 'contacts', lazy: () => import('./features/people/contacts-page') },
      { path: 'accounts', lazy: () => import('./features/people/accounts-page') },
      { path: 'deals', lazy: () => import('./features/deals/deals-page') },
      { path: 'setup/assignment', lazy: () => import('./features/assignment/assignment-page') },
      { path: 'setup/fields', lazy: () => import('./features/setup/fields-page') },
      { path: 'setup/scores', lazy: () => import('./features/setup/scores-page') },
      { path: 'setup/conversion', lazy: () => import('./features/setup/conversion-page') },
      { path: 'setup/tags', lazy: () => import('./features/setup/tags-page') },
      { path: 'setup/choices', lazy: () => import('./features/setup/choices-page') },
      { path: 'setup/mail', lazy: () => import('./features/mail/mail-capture-page') },
      { path: 'tokens', lazy: () => import('./features/tokens/tokens-page') },
      { path: 'notices', lazy: () => import('./kernel/notices/notices-page') },
      { path: 'imports', lazy: () => import('./features/imports/imports-page') },
      { path: 'forms', lazy: () => import('./features/forms/forms-page') },
      { path: 'forms/:id', lazy: () => import('./features/forms/form-page') },
      { path: 'team', lazy: () => import('./features/team/team-page') },
      { path: ':objects/:id', lazy: () => import('./kernel/records/record-page') },
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
