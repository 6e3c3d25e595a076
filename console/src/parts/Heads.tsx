/** The headings of a table's columns; those of numbers stand to the right. */
export function Heads({ names, numbers = [] }: { names: readonly string[]; numbers?: readonly string[] }) {
  return (
    <thead>
      <tr>
        {names.map((name) => (
          <th key={name} scope="col" {...(numbers.includes(name) && { className: 'number' })}>
            {name}
          </th>
        ))}
      </tr>
    </thead>
  );
}
