import { keepPreviousData, QueryClient, queryOptions } from '@tanstack/react-query';
import { answered, api, ServiceError } from './client';
import type { NamedChangeRequest } from './schema';

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

/** What stands at a place of the app file. */
export const valueQuery = (state: string, place: string) =>
  queryOptions({
    queryKey: ['value', state, place],
    queryFn: () => answered(api.GET('/api/app-file/value', { params: { query: { place } } })),
  });

/** What would become of the app file by a named change; nothing is saved. */
export const trialQuery = (version: string, change: NamedChangeRequest) =>
  queryOptions({
    queryKey: ['trial', version, change],
    queryFn: () => answered(api.POST('/api/app-file/changes', { body: { changes: [change], version, save: false } })),
    retry: false,
    placeholderData: keepPreviousData,
  });

/** Saves a named change of the app file. */
export const saveChange = (version: string, change: NamedChangeRequest) =>
  answered(api.POST('/api/app-file/changes', { body: { changes: [change], version, save: true } }));
