import { keepPreviousData, QueryClient, queryOptions } from '@tanstack/react-query';
import { answered, api, ServiceError } from './client';

/** How often the console asks whether anything has changed, in milliseconds. */
const pulse = 2000;

/** One client for all screens: what is at hand is shown at once, and nothing is asked twice at a time. */
export function makeQueryClient(): QueryClient {
  return new QueryClient({
    defaultOptions: {
      queries: {
        retry: (times, error) => error instanceof ServiceError && error.trouble === 'gone' && times < 2,
        retryDelay: 300,
        staleTime: 1000,
        networkMode: 'always',
      },
    },
  });
}

/** The heartbeat: everything else is asked again when its revision or its findings change. */
export const siteQuery = queryOptions({
  queryKey: ['site'],
  queryFn: () => answered(api.GET('/api/site')),
  refetchInterval: pulse,
  refetchIntervalInBackground: false,
  retry: false,
});

export const pagesQuery = (state: string) =>
  queryOptions({ queryKey: ['pages', state], queryFn: () => answered(api.GET('/api/pages')), placeholderData: keepPreviousData });

export const samplesQuery = (state: string) =>
  queryOptions({
    queryKey: ['samples', state],
    queryFn: () => answered(api.GET('/api/samples')),
    placeholderData: keepPreviousData,
  });

/** How the sources are changes by itself: it is asked again and again while anybody looks. */
export const sourcesQuery = queryOptions({
  queryKey: ['sources'],
  queryFn: () => answered(api.GET('/api/sources')),
  refetchInterval: pulse,
  placeholderData: keepPreviousData,
});

export const findingsQuery = (state: string) =>
  queryOptions({
    queryKey: ['findings', state],
    queryFn: () => answered(api.GET('/api/findings')),
    placeholderData: keepPreviousData,
  });

export const appFileQuery = (state: string) =>
  queryOptions({
    queryKey: ['app-file', state],
    queryFn: () => answered(api.GET('/api/app-file')),
    placeholderData: keepPreviousData,
  });

export const visitsQuery = (outcome: string | null) =>
  queryOptions({
    queryKey: ['visits', outcome],
    queryFn: () =>
      answered(api.GET('/api/visits', { params: { query: { limit: 100, ...(outcome === null ? {} : { outcome }) } } })),
    refetchInterval: pulse,
    placeholderData: keepPreviousData,
  });

export const visitQuery = (number: number) =>
  queryOptions({
    queryKey: ['visit', number],
    queryFn: () => answered(api.GET('/api/visits/{number}', { params: { path: { number } } })),
    staleTime: Number.POSITIVE_INFINITY,
  });

export const traceQuery = (state: string, target: string) =>
  queryOptions({
    queryKey: ['trace', state, target],
    queryFn: () => answered(api.POST('/api/traces', { body: { target, method: null, accept: null } })),
  });

/** The schema of app files: the same for every app. */
export const schemaQuery = queryOptions({
  queryKey: ['schema'],
  queryFn: async () => (await fetch('/app-file.schema.json')).json(),
  staleTime: Number.POSITIVE_INFINITY,
});

/** The working copy of the app file: one for all screens, asked again when the heartbeat tells of another revision. */
export const workingQuery = queryOptions({
  queryKey: ['working-copy'],
  queryFn: () => answered(api.GET('/api/working-copy')),
  staleTime: Number.POSITIVE_INFINITY,
});

/** What stands at a place of the working copy. */
export const valueQuery = (revision: number, place: string) =>
  queryOptions({
    queryKey: ['value', revision, place],
    queryFn: () => answered(api.GET('/api/working-copy/value', { params: { query: { place } } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: (before, query) => (query?.queryKey[2] === place ? before : undefined),
  });

/** The names that can stand at a place: as its value, or as keys of the mapping there. */
export const choicesQuery = (revision: number, place: string, keys: boolean) =>
  queryOptions({
    queryKey: ['choices', revision, place, keys],
    queryFn: () => answered(api.GET('/api/working-copy/choices', { params: { query: { place, keys } } })),
    staleTime: Number.POSITIVE_INFINITY,
    placeholderData: keepPreviousData,
  });

/** Addresses of a page of the preview, for its first records. */
export const previewSamplesQuery = (revision: number, page: string) =>
  queryOptions({
    queryKey: ['preview-samples', revision, page],
    queryFn: () => answered(api.GET('/api/working-copy/samples/{page}', { params: { path: { page } } })),
    retry: false,
    placeholderData: keepPreviousData,
  });

/** Addresses to try a page of the preview with; all pages if none is named. */
export const casesQuery = (revision: number, page: string | null) =>
  queryOptions({
    queryKey: ['cases', revision, page],
    queryFn: () => answered(api.GET('/api/working-copy/cases', { params: { query: page === null ? {} : { page } } })),
    placeholderData: keepPreviousData,
  });

/** The links that the preview shows at an address, each followed. */
export const previewLinksQuery = (revision: number, target: string) =>
  queryOptions({
    queryKey: ['preview-links', revision, target],
    queryFn: () => answered(api.POST('/api/working-copy/links', { body: { target, method: null, accept: null } })),
    placeholderData: keepPreviousData,
  });

/** What a visit in the preview would come to. */
export const previewTraceQuery = (revision: number, target: string) =>
  queryOptions({
    queryKey: ['preview-trace', revision, target],
    queryFn: () => answered(api.POST('/api/working-copy/traces', { body: { target, method: null, accept: null } })),
  });

/** How the working copy differs from the file. */
export const differenceQuery = (revision: number, file: number) =>
  queryOptions({
    queryKey: ['difference', revision, file],
    queryFn: () => answered(api.GET('/api/working-copy/difference')),
    placeholderData: keepPreviousData,
  });

/** Earlier versions of the file. */
export const versionsQuery = (file: number) =>
  queryOptions({
    queryKey: ['versions', file],
    queryFn: () => answered(api.GET('/api/working-copy/versions')),
  });

/** An earlier version, compared with the working copy. */
export const versionQuery = (revision: number, version: string) =>
  queryOptions({
    queryKey: ['version', revision, version],
    queryFn: () => answered(api.GET('/api/working-copy/versions/{version}', { params: { path: { version } } })),
    placeholderData: keepPreviousData,
    retry: false,
  });

/** The proof that is being made, and the history of those that were; asked often as long as one is being made. */
export const proofsQuery = queryOptions({
  queryKey: ['proofs'],
  queryFn: () => answered(api.GET('/api/proofs')),
  refetchInterval: (query) => (query.state.data?.running ? 500 : pulse),
  placeholderData: keepPreviousData,
});

/** One report: it never changes. */
export const reportQuery = (number: number) =>
  queryOptions({
    queryKey: ['report', number],
    queryFn: () => answered(api.GET('/api/proofs/{number}', { params: { path: { number } } })),
    staleTime: Number.POSITIVE_INFINITY,
    retry: false,
  });
