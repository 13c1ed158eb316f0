import { QueryClient, QueryClientProvider, useQuery, useQueryClient } from "@tanstack/react-query";
import { ConfigProvider } from "antd";
import { Suspense, useEffect, type ReactNode } from "react";
import { BrowserRouter, Route, Routes } from "react-router";
import { Home } from "../home/Home";
import { api } from "../shared/api/calls";
import { Refusal } from "../shared/api/transport";
import { Boundary } from "../shared/layout/Boundary";
import { jobKey } from "../shared/api/useJob";
import type { JobView } from "../shared/api/types";
import { startCore } from "../shared/hand/core";
import { startSending } from "../shared/outbox/outbox";
import { lazyAgain } from "../shared/lib/lazyAgain";
import { useInstalled } from "./installed";
import { OnThisDevice } from "./OnThisDevice";
import { JobPage } from "./JobPage";
import { SIGNS } from "./kit";
import { useLight } from "./lights";
import { SignIn } from "./SignIn";
import { Standing } from "./Standing";
import { themeFor } from "./theme";
import { say } from "../words/say";

const ShelfPage = lazyAgain(() => import("../shelf/ShelfPage"));
const AccountPage = lazyAgain(() => import("../people/AccountPage"));
const PeoplePage = lazyAgain(() => import("../people/PeoplePage"));
const AuditPage = lazyAgain(() => import("../people/AuditPage"));
const JoinPage = lazyAgain(() => import("../people/JoinPage"));
const GuestPage = lazyAgain(() => import("../people/GuestPage"));
const WeeksPage = lazyAgain(() => import("../weeks/WeeksPage"));
const BeginPage = lazyAgain(() => import("../begin/BeginPage"));
const BenchPage = lazyAgain(() => import("../bench/BenchPage"));
const FRESH_MS = 5_000;
const SERVER_FAULT = 500;
/** The core for this browser comes after the first screen, and after the app was laid down. */
const CORE_LATER_MS = 6_000;

const queries = new QueryClient({
  defaultOptions: {
    // Without a network a call fails at once and is said; it never waits without a word.
    mutations: { networkMode: "always" },
    queries: {
      networkMode: "always",
      staleTime: FRESH_MS,
      retry: (count, error) =>
        count < 2 && (!(error instanceof Refusal) || error.report.status >= SERVER_FAULT || error.report.status === 0),
    },
  },
});

export function App() {
  const light = useLight();
  return (
    <ConfigProvider theme={themeFor(light)} wave={{ disabled: true }} {...SIGNS}>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Routes>
            <Route
              path="/join/:ticket"
              element={
                <Page what={say("app.this_link")}>
                  <JoinPage />
                </Page>
              }
            />
            <Route
              path="/guest/:ticket"
              element={
                <Page what={say("app.this_record")}>
                  <GuestPage />
                </Page>
              }
            />
            <Route path="*" element={<Doors />} />
          </Routes>
        </BrowserRouter>
      </QueryClientProvider>
    </ConfigProvider>
  );
}

function Doors() {
  const session = useQuery({ queryKey: ["session"], queryFn: api.session, staleTime: Infinity });
  if (session.isPending) return <p className="nothing">{say("app.opening")}</p>;
  if (session.isError) return <p className="nothing">{session.error.message}</p>;
  if (session.data.name === null) return <SignIn demo={session.data.demo} />;
  const home = <Home name={session.data.name} />;
  return (
    <>
      <Sends name={session.data.name} switching={session.data.only_with_server} core={session.data.core} />
      <Standing />
      <Routes>
        <Route path="/" element={<Page what={say("app.the_list_of_jobs")}>{home}</Page>} />
        <Route
          path="/jobs/:jobId/:stage"
          element={
            <Page what={say("app.this_job")}>
              <JobPage />
            </Page>
          }
        />
        <Route
          path="/shelf"
          element={
            <Page what={say("common.the_shelf")}>
              <ShelfPage />
            </Page>
          }
        />
        <Route
          path="/weeks"
          element={
            <Page what={say("app.the_weeks")}>
              <WeeksPage />
            </Page>
          }
        />
        <Route
          path="/account"
          element={
            <Page what={say("common.your_account")}>
              <AccountPage />
            </Page>
          }
        />
        <Route
          path="/people"
          element={
            <Page what={say("common.the_crew")}>
              <PeoplePage />
            </Page>
          }
        />
        <Route
          path="/audit"
          element={
            <Page what={say("app.the_audit")}>
              <AuditPage />
            </Page>
          }
        />
        <Route
          path="/begin/:begunId"
          element={
            <Page what={say("app.the_questions")}>
              <BeginPage />
            </Page>
          }
        />
        <Route
          path="/bench"
          element={
            <Page what={say("app.the_bench")}>
              <BenchPage />
            </Page>
          }
        />
        <Route path="*" element={<Page what={say("app.the_list_of_jobs")}>{home}</Page>} />
      </Routes>
    </>
  );
}

/** What is only on this device, sent in the name of whoever is signed in; a newer version, offered. */
function Sends({ name, switching, core }: { name: string; switching: string[]; core: string }) {
  const client = useQueryClient();
  const take = useInstalled();
  useEffect(
    () =>
      startSending(name, switching, (jobId, view) =>
        client.setQueryData<JobView>(jobKey(jobId), (shown) => (shown === undefined ? shown : { ...shown, ...view })),
      ),
    [name, switching, client],
  );
  useEffect(() => {
    const timer = setTimeout(() => void (core !== "" && startCore(core)), CORE_LATER_MS);
    return () => clearTimeout(timer);
  }, [core]);
  return (
    <>
      <OnThisDevice name={name} />
      {take !== null && (
        <p className="newer" role="status">
          {say("app.a_newer_version_is_here")}{" "}
          <button type="button" className="quiet" onClick={take}>
            {say("app.take_it_now")}
          </button>
        </p>
      )}
    </>
  );
}

/** One page, held by itself: a fault in it leaves the others as they are. */
function Page({ what, children }: { what: string; children: ReactNode }) {
  return (
    <Boundary what={what}>
      <Suspense fallback={<p className="nothing">{say("app.opening")}</p>}>{children}</Suspense>
    </Boundary>
  );
}
