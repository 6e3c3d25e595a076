using Jexa.Core.Definitions;

namespace Jexa.Core.Rewriting;

/// <summary>
/// One change of an app file, said by names and not by lines. Console, command line and programs make the same ones.
/// </summary>
public abstract record NamedChange
{
    private static readonly Dictionary<string, string> Nothing = [];

    private NamedChange() { }

    /// <summary>Whether the change must know what the app file means. That costs a compilation.</summary>
    public virtual bool AsksApp => false;

    /// <summary>Makes the change to a text.</summary>
    /// <returns>The new names of pages that were renamed, by their old names.</returns>
    /// <exception cref="RewriteException">The change cannot be made. The text is as it was or partly changed: drop
    /// it.</exception>
    public abstract IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app);

    /// <summary>Adds pages for a record kind: those of the given kinds that it does not have yet.</summary>
    /// <param name="Kinds">The words of the kinds: <c>list</c>, <c>detail</c>, <c>edit</c>, <c>new</c>, <c>delete</c>.</param>
    public sealed record AddPages(string Record, IReadOnlyList<string> Kinds) : NamedChange
    {
        /// <inheritdoc/>
        public override bool AsksApp => true;

        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            if (file.Find("records", Record) is null)
                throw new RewriteException(
                    $"There is no record “{Record}”. There {(file.Keys("records").Count == 1 ? "is" : "are")}: "
                        + $"{string.Join(", ", file.Keys("records"))}."
                );
            var kinds = Kinds
                .Select(word =>
                    PageKind.Of(word) is { HasRecord: true } kind
                        ? kind
                        : throw new RewriteException($"“{word}” is no kind of page of a record: use {string.Join(", ", Words)}.")
                )
                .ToList();
            var key = app.KeyOf(Record);
            if (key.Count == 0 && kinds.Exists(kind => kind.HasId))
                throw new RewriteException(
                    $"The key of “{Record}” is not known, so its pages have no ID: add key: FIELD to the record, or bring its "
                        + "source back."
                );
            var missing = kinds.Where(kind => !PageChanges.Has(file, Record, kind)).ToList();
            if (missing.Count == 0)
                throw new RewriteException(
                    $"The record “{Record}” has {(kinds.Count == 1 ? $"a {kinds[0]} page" : "all of these pages")} already."
                );
            PageChanges.Add(file, Record, key, missing);
            return Nothing;
        }

        /// <summary>The kinds of pages that a record can have.</summary>
        public static IReadOnlyList<string> Words { get; } =
        [.. PageKind.All.Where(kind => kind.HasRecord).Select(kind => kind.Word)];
    }

    /// <summary>Adds one page of any kind.</summary>
    /// <param name="Kind">The word of the kind: <c>list</c>, <c>detail</c>, <c>edit</c>, <c>new</c>, <c>delete</c>,
    /// <c>text</c>.</param>
    /// <param name="Record">The record kind that it shows; for a text page the text.</param>
    public sealed record NewPage(string Name, string Kind, string Record) : NamedChange
    {
        /// <inheritdoc/>
        public override bool AsksApp => true;

        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            var kind = PageKind.Of(Kind)
                ?? throw new RewriteException(
                    $"“{Kind}” is no kind of page: use {string.Join(", ", PageKind.All.Select(one => one.Word))}."
                );
            if (kind.HasRecord && file.Find("records", Record) is null)
                throw new RewriteException($"There is no record “{Record}”.");
            PageChanges.AddOne(file, Name, kind, Record, app.KeyOf(Record));
            return Nothing;
        }
    }

    /// <summary>Renames a page, and everything in the file that names it.</summary>
    public sealed record RenamePage(string Page, string Name) : NamedChange
    {
        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app) =>
            PageChanges.Rename(file, Page, Name);
    }

    /// <summary>Removes a page. What names it stays.</summary>
    public sealed record RemovePage(string Page) : NamedChange
    {
        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            PageChanges.Remove(file, Page);
            return Nothing;
        }
    }

    /// <summary>Gives a page another path. Addresses of the former one redirect, if it has the same parameters.</summary>
    public sealed record MovePage(string Page, string Path) : NamedChange
    {
        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            PathChanges.Move(file, Page, Path);
            return Nothing;
        }
    }

    /// <summary>Renames a parameter of a page, and everything in the file that names it.</summary>
    public sealed record RenameParameter(string Page, string Parameter, string Name) : NamedChange
    {
        /// <inheritdoc/>
        public override bool AsksApp => true;

        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            PathChanges.RenameParameter(file, Page, Parameter, Name, app.FieldOf(Page, Parameter));
            return Nothing;
        }
    }

    /// <summary>Sets the value at a place: a text, a list or a mapping.</summary>
    public sealed record SetValue(IReadOnlyList<string> Place, FileValue Value) : NamedChange
    {
        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            file.Set(Place, Value);
            return Nothing;
        }
    }

    /// <summary>Removes what stands at a place, so that it is as if it had never been said.</summary>
    public sealed record Reset(IReadOnlyList<string> Place) : NamedChange
    {
        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            file.Remove(Place);
            return Nothing;
        }
    }

    /// <summary>Adds an item to the list at a place, behind the last one. The list is made if there is none.</summary>
    public sealed record AddItem(IReadOnlyList<string> Place, FileValue Value) : NamedChange
    {
        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            file.Append(Place, Value);
            return Nothing;
        }
    }

    /// <summary>Moves an item of a list to another number in it, from 0.</summary>
    public sealed record MoveItem(IReadOnlyList<string> Place, int To) : NamedChange
    {
        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            file.Move(Place, To);
            return Nothing;
        }
    }

    /// <summary>Gives the key at a place another name. What refers to it stays as it is.</summary>
    public sealed record RenameKey(IReadOnlyList<string> Place, string Name) : NamedChange
    {
        /// <inheritdoc/>
        public override IReadOnlyDictionary<string, string> Make(FileRewriter file, IAppKnowledge app)
        {
            file.Rename(Place, Name);
            return Nothing;
        }
    }
}
