import { lazy, Suspense } from 'react';
import { createBrowserRouter, RouterProvider } from 'react-router';
import { features } from './features';
import { FeatureProvider } from './kernel/shell/feature';
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
    children: [...features.flatMap(({ pages = [] }) => pages), { path: '*', element: <LostPage /> }],
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
        <FeatureProvider value={features}>
          <RouterProvider router={router} />
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
