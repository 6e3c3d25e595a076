using Jexa.Core.Compiler;
using Jexa.Core.Definitions;
using Jexa.Core.Rewriting;

namespace Jexa.Core.Guidance;

/// <summary>
/// What an editor asks about the text of an app file: what can be typed, what something means, where it is said and where it is
/// used. The console and the language server ask the same.
/// </summary>
/// <param name="text">The text as it is now, finished or not.</param>
/// <param name="readable">The text as it is now, or the last one that could be read.</param>
/// <param name="compilation">The last compilation.</param>
public sealed class Language(SchemaTree schema, string text, FileMap? readable, Compilation compilation)
{
    private readonly FileValue _file = readable?.Value ?? FileValue.Of();

    private Guide Guide => new(_file, compilation);

    /// <summary>What can be typed at an offset, and where what has been typed of it begins.</summary>
    public (int From, IReadOnlyList<Completion> Completions) CompletionsAt(int offset)
    {
        var context = TextContext.At(text, offset);
        var from = offset - context.Typed.Length;
        // A quote before the word stays.
        if (context.IsKey)
            return (from, Keys(context));
        var choices = Guide.ValuesAt(context.Place);
        var words = schema.Words(context.Place).Select(word => new Completion(word, word, "")).ToList();
        return (from, [.. choices.Select(choice => new Completion(choice.Text, choice.Text, choice.Detail)), .. words]);
    }

    private List<Completion> Keys(TextContext context)
    {
        var there = readable is null ? [] : KeysAt(context.Place);
        // In an item of a list that may be a text, names come as well: “side: [kind]”.
        var names = Guide
            .KeysAt(context.Place)
            .Concat(context.Place is [.., var last] && int.TryParse(last, out _) ? Guide.ValuesAt(context.Place) : []);
        return
        [
            .. names
                .Concat(schema.Keys(context.Place))
                .Where(key => key.Text == context.Typed || !there.Contains(key.Text))
                .DistinctBy(key => key.Text)
                .Select(key => new Completion($"{key.Text}: ", key.Text, key.Detail)),
        ];
    }

    private HashSet<string> KeysAt(IReadOnlyList<string> place)
    {
        var value = _file;
        foreach (var step in place)
            value = value switch
            {
                FileValue.Map map => map.Entries.FirstOrDefault(entry => entry.Key == step).Value ?? FileValue.Of(),
                FileValue.List list when int.TryParse(step, out var index) && index >= 0 && index < list.Items.Count =>
                    list.Items[index],
                _ => FileValue.Of(),
            };
        return value is FileValue.Map found ? [.. found.Entries.Select(entry => entry.Key)] : [];
    }

    /// <summary>What stands at a line and column means, as Markdown. Null if there is nothing to say.</summary>
    public string? HoverAt(int line, int column)
    {
        if (readable?.At(line, column) is not { } there)
            return null;
        var parts = new List<string>();
        if (NameAt(there) is { } name && Told(name.Kind, name.Text) is { } told)
            parts.Add(told);
        if (schema.Meaning(there.Place) is { } meaning)
            parts.Add($"`{there.Place[^1]}`: {meaning}");
        return parts.Count == 0 ? null : string.Join("\n\n", parts);
    }

    /// <summary>Where the name at a line and column is defined. Null if it is no name, or is not defined in the file.</summary>
    public MapRange? DefinitionAt(int line, int column) =>
        readable?.At(line, column) is { } there && NameAt(there) is { } name ? Definition(name) : null;

    /// <summary>Every place that names what is named at a line and column, with its definition.</summary>
    public IReadOnlyList<MapRange> ReferencesAt(int line, int column)
    {
        if (readable?.At(line, column) is not { } there || NameAt(there) is not { } name)
            return [];
        var found = new List<MapRange>();
        if (Definition(name) is { } definition)
            found.Add(definition);
        foreach (var (place, value) in PageChanges.Texts(_file, []))
            if (value == name.Text && NamePlace.OfValue(_file, place) is { } other && other == name.Of)
                if (readable.RangeOfValue(place) is { } range)
                    found.Add(range);
        return [.. found.Distinct()];
    }

    /// <summary>The change that renames what is named at a line and column.</summary>
    /// <exception cref="RewriteException">It cannot be renamed.</exception>
    public NamedChange RenameAt(int line, int column, string to)
    {
        var there = readable?.At(line, column) ?? throw new RewriteException("The text cannot be read as it is.");
        if (NameAt(there) is not { } name)
            throw new RewriteException("Only names of pages and parameters can be renamed.");
        return name.Kind switch
        {
            NameKind.Page => new NamedChange.RenamePage(name.Text, to),
            NameKind.Parameter => new NamedChange.RenameParameter(name.Of.Owner, name.Text, to),
            _ => throw new RewriteException("Only names of pages and parameters can be renamed."),
        };
    }

    private sealed record NameThere(NamePlace Of, string Text)
    {
        public NameKind Kind => Of.Kind;
    }

    /// <summary>The name at a place: where it is defined, or where it is used.</summary>
    private NameThere? NameAt(MapEntry there)
    {
        if (there.Text is not { } text)
            return null;
        var place = there.Place;
        if (there.IsKey)
            return place switch
            {
                ["pages", _] => new NameThere(new NamePlace(NameKind.Page), text),
                ["records", _] => new NameThere(new NamePlace(NameKind.Record), text),
                ["sources", _] => new NameThere(new NamePlace(NameKind.Source), text),
                _ => NamePlace.OfKeys(_file, [.. place.Take(place.Count - 1)]) is { } keys ? new NameThere(keys, text) : null,
            };
        return NamePlace.OfValue(_file, place) is { } name ? new NameThere(name, text) : null;
    }

    private MapRange? Definition(NameThere name) =>
        name.Kind switch
        {
            NameKind.Page => readable!.RangeOfKey(["pages", name.Text]) ?? Implied(name.Text),
            NameKind.Record => readable!.RangeOfKey(["records", name.Text]),
            NameKind.Source => readable!.RangeOfKey(["sources", name.Text]),
            NameKind.Table => readable!.RangeOfKey(["sources", name.Text.Split('.')[0]]),
            NameKind.Field => readable!.RangeOfKey(["records", name.Of.Owner, "fields", name.Text])
                ?? readable.RangeOfKey(["records", name.Of.Owner]),
            NameKind.Parameter => readable!.RangeOfKey(["pages", name.Of.Owner, "path"]),
            _ => null,
        };

    /// <summary>The entry of the page whose <c>forms</c> makes this one.</summary>
    private MapRange? Implied(string page) =>
        page.LastIndexOf('-') is > 0 and var dash ? readable!.RangeOfKey(["pages", page[..dash], "forms"]) : null;

    private string? Told(NameKind kind, string name)
    {
        switch (kind)
        {
            case NameKind.Page when compilation.Partial?.Find(name) is { } page:
                var of = page.Record is { } record ? $" of {record.Name}" : "";
                var parameters = page.Parameters.Select(parameter => $"- `{parameter.Name}`: {parameter.Key.Looks}");
                return $"**{name}**: {page.Kind}{of}, `{page.Head.Template.Text}`\n\n{string.Join('\n', parameters)}".TrimEnd();
            case NameKind.Record when compilation.Partial?.Kinds.FirstOrDefault(one => one.Name == name) is { } found:
                var fields = found.Fields.Where(field => !field.Secret).Select(field => $"`{field.Name}`").Take(40);
                return $"**{name}**: {found.Table.Name}, key {string.Join(", ", found.Key.Select(key => $"`{key.Name}`"))}\n\n"
                    + string.Join(", ", fields);
            case NameKind.Field or NameKind.Parameter or NameKind.Source or NameKind.Table:
                return null;
            default:
                return null;
        }
    }

    /// <summary>The findings of the text.</summary>
    public IReadOnlyList<Finding> Findings => compilation.FindingsInAppFile;
}
