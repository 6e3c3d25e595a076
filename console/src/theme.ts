import { createTheme, type MantineColorsTuple } from '@mantine/core';

const moss: MantineColorsTuple = [
  '#eaf5f0',
  '#d3e8df',
  '#a9d3c2',
  '#7cbda4',
  '#57aa8b',
  '#3f9e7b',
  '#2f8a69',
  '#227258',
  '#17594a',
  '#0c3f34',
];

/** The pages' own colours, so that the console and what it shows look like one product. */
export const theme = createTheme({
  colors: { moss },
  primaryColor: 'moss',
  primaryShade: { light: 8, dark: 7 },
  defaultRadius: 'sm',
  fontFamily: 'system-ui, -apple-system, "Segoe UI", "Noto Sans", "DejaVu Sans", sans-serif',
  fontFamilyMonospace: 'ui-monospace, "DejaVu Sans Mono", "Noto Sans Mono", monospace',
  headings: { fontWeight: '650' },
});
