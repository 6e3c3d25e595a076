namespace Jexa.Core.Rewriting;

/// <summary>Makes changes to what a file means, so that a changed text can be compared with what it is to mean.</summary>
internal static class FileChange
{
    /// <summary>The value with another one at a place: in place of the old one, or as a last entry.</summary>
    public static FileValue Set(FileValue whole, IReadOnlyList<string> place, FileValue value) =>
        At(
            whole,
            place,
            (map, key) =>
                map.Any(entry => entry.Key == key)
                    ? [.. map.Select(entry => entry.Key == key ? KeyValuePair.Create(key, value) : entry)]
                    : [.. map, KeyValuePair.Create(key, value)],
            (list, index) => [.. list.Select((item, i) => i == index ? value : item)],
            value
        );

    /// <summary>The value without what stands at a place.</summary>
    public static FileValue Remove(FileValue whole, IReadOnlyList<string> place) =>
        At(
            whole,
            place,
            (map, key) => [.. map.Where(entry => entry.Key != key)],
            (list, index) => [.. list.Where((_, i) => i != index)],
            whole
        );

    /// <summary>The value with another key for what stands at a place.</summary>
    public static FileValue Rename(FileValue whole, IReadOnlyList<string> place, string key) =>
        At(
            whole,
            place,
            (map, old) => [.. map.Select(entry => entry.Key == old ? KeyValuePair.Create(key, entry.Value) : entry)],
            (list, _) => [.. list],
            whole
        );

    /// <summary>The value with one more entry in the mapping at a place.</summary>
    public static FileValue Insert(FileValue whole, IReadOnlyList<string> place, int index, string key, FileValue value) =>
        At(
            whole,
            [.. place, key],
            (map, _) => [.. map.Take(index), KeyValuePair.Create(key, value), .. map.Skip(index)],
            (list, _) => [.. list],
            whole
        );

    private static FileValue At(
        FileValue whole,
        IReadOnlyList<string> place,
        Func<IReadOnlyList<KeyValuePair<string, FileValue>>, string, IReadOnlyList<KeyValuePair<string, FileValue>>> inMap,
        Func<IReadOnlyList<FileValue>, int, IReadOnlyList<FileValue>> inList,
        FileValue root
    )
    {
        if (place.Count == 0)
            return root;
        var (step, rest) = (place[0], place.Skip(1).ToList());
        switch (whole)
        {
            case FileValue.Map map when rest.Count == 0:
                return new FileValue.Map(inMap(map.Entries, step));
            case FileValue.Map map:
                return new FileValue.Map([
                    .. map.Entries.Select(entry =>
                        entry.Key == step ? KeyValuePair.Create(step, At(entry.Value, rest, inMap, inList, root)) : entry
                    ),
                ]);
            case FileValue.List list:
                var index = int.Parse(step, System.Globalization.CultureInfo.InvariantCulture);
                return new FileValue.List(
                    rest.Count == 0
                        ? inList(list.Items, index)
                        : [.. list.Items.Select((item, i) => i == index ? At(item, rest, inMap, inList, root) : item)]
                );
            default:
                return whole;
        }
    }
}
