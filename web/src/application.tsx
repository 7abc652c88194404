import { lazy, Suspense, useState } from 'react';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { features } from './features';
import { FeatureProvider } from './kernel/shell/feature';
import { Frame } from './kernel/shell/frame';
import { BrokenPage, LostPage, Unreachable, Waiting } from './platform/frame/states';
import { SessionProvider, useSessionAnswer, type Arrival } from './platform/sessions/session';

const SignInPage = lazy(() => import('./platform/sessions/sign-in-page'));
const PasswordPage = lazy(() => import('./platform/sessions/password-page'));
const SecondStepDue = lazy(() => import('./features/access/second-step-due'));
const FirstRunPage = lazy(() => import('./platform/sessions/first-run-page'));

/** Each page is a bundle of its own, fetched when it is first gone to. */
const router = createBrowserRouter([
  {
    element: <Frame />,
    HydrateFallback: Waiting,
    children: [
      {
        ErrorBoundary: BrokenPage,
        children: [...features.flatMap(({ pages = [] }) => pages), { path: '*', element: <LostPage /> }],
      },
    ],
  },
]);

/** Where links to set a password lead. */
const PASSWORD_PATH = '/password/';

/** The secret in the address of somebody who follows a link to set a password. */
const linkedSecret = (): string | undefined =>
  location.pathname.startsWith(PASSWORD_PATH)
    ? decodeURIComponent(location.pathname.slice(PASSWORD_PATH.length))
    : undefined;

/** The whole application: the sign-in, or the first run, or the frame with its pages. */
export function Application() {
  const { answer, error, refetch, enter } = useSessionAnswer();
  const [linked, setLinked] = useState(linkedSecret);
  if (linked !== undefined)
    return (
      <Suspense fallback={<Waiting />}>
        <PasswordPage
          secret={linked}
          enter={(signedIn) => {
            // The router has read the address when the page was opened: it goes on from there, not from the link.
            void router.navigate('/', { replace: true });
            setLinked(undefined);
            enter(signedIn);
          }}
        />
      </Suspense>
    );
  if (error && !answer) return <Unreachable retry={() => void refetch()} />;
  if (!answer) return <Waiting />;
  if (answer.signedIn) {
    return (
      <SessionProvider signedIn={answer}>
        <FeatureProvider value={features}>
          {answer.owesSecondStep ? (
            <Suspense fallback={<Waiting />}>
              <SecondStepDue />
            </Suspense>
          ) : (
            <RouterProvider router={router} />
          )}
        </FeatureProvider>
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
