import { QueryClient, QueryClientProvider, useQuery } from "@tanstack/react-query";
import { ConfigProvider } from "antd";
import { lazy, Suspense } from "react";
import { BrowserRouter, Route, Routes } from "react-router";
import { Home } from "../home/Home";
import { api } from "../shared/api/calls";
import { Refusal } from "../shared/api/transport";
import { JobPage } from "./JobPage";
import { useLight } from "./lights";
import { SignIn } from "./SignIn";
import { themeFor } from "./theme";

const ShelfPage = lazy(() => import("../shelf/ShelfPage"));
const BenchPage = lazy(() => import("../bench/BenchPage"));
const FRESH_MS = 5_000;
const SERVER_FAULT = 500;

const queries = new QueryClient({
  defaultOptions: {
    queries: {
      staleTime: FRESH_MS,
      retry: (count, error) =>
        count < 2 && (!(error instanceof Refusal) || error.report.status >= SERVER_FAULT || error.report.status === 0),
    },
  },
});

export function App() {
  const light = useLight();
  return (
    <ConfigProvider theme={themeFor(light)} wave={{ disabled: true }}>
      <QueryClientProvider client={queries}>
        <BrowserRouter>
          <Doors />
        </BrowserRouter>
      </QueryClientProvider>
    </ConfigProvider>
  );
}

function Doors() {
  const session = useQuery({ queryKey: ["session"], queryFn: api.session, staleTime: Infinity });
  if (session.isPending) return <p className="nothing">Opening</p>;
  if (session.isError) return <p className="nothing">{session.error.message}</p>;
  if (session.data.name === null) return <SignIn demo={session.data.demo} />;
  return (
    <Routes>
      <Route path="/" element={<Home name={session.data.name} />} />
      <Route path="/jobs/:jobId/:stage" element={<JobPage />} />
      <Route
        path="/shelf"
        element={
          <Suspense fallback={<p className="nothing">Opening the shelf</p>}>
            <ShelfPage />
          </Suspense>
        }
      />
      <Route
        path="/bench"
        element={
          <Suspense fallback={<p className="nothing">Opening the bench</p>}>
            <BenchPage />
          </Suspense>
        }
      />
      <Route path="*" element={<Home name={session.data.name} />} />
    </Routes>
  );
}
