namespace Jexa.Core.Addresses;

/// <summary>
/// Finds the pages for a path: a tree with one level for each segment. On each level the literal is tried first, then parameters
/// with the longest prefix and suffix, then the parameter without either. If a branch leads to no page, the next one is tried.
/// Pages that share a path are found together. Immutable once built; matching allocates nothing.
/// </summary>
public sealed class PathTree<TPage>
    where TPage : class
{
    private readonly Node _root = new();

    /// <summary>Adds a page under the segments of its template.</summary>
    public void Add(PathTemplate template, TPage page)
    {
        var node = _root;
        foreach (var segment in template.Segments)
            node = node.Child(segment);
        node.Pages = [.. node.Pages, page];
    }

    /// <summary>The pages of the target's path; empty if there are none.</summary>
    /// <param name="depth">The number of segments to match: all, or one less to ignore a trailing slash.</param>
    public IReadOnlyList<TPage> Match(RequestTarget target, int depth) => Find(_root, target, 0, depth)?.Pages ?? [];

    private static Node? Find(Node node, RequestTarget target, int at, int depth)
    {
        if (at == depth)
            return node.Pages.Length > 0 ? node : null;
        var text = target.Text(at);
        if (
            !target.Segments[at].IsBad
            && node.Literals.TryGetValue(text, out var literal)
            && Find(literal, target, at + 1, depth) is { } found
        )
            return found;
        foreach (var branch in node.Parameters)
        {
            if (!branch.Accepts(target, at, text))
                continue;
            if (Find(branch.Next, target, at + 1, depth) is { } behind)
                return behind;
        }

        return null;
    }

    private sealed class Node
    {
        private readonly Dictionary<string, Node> _literals = new(StringComparer.Ordinal);

        public Node() => Literals = _literals.GetAlternateLookup<ReadOnlySpan<char>>();

        public Dictionary<string, Node>.AlternateLookup<ReadOnlySpan<char>> Literals { get; }

        public List<Branch> Parameters { get; } = [];

        public TPage[] Pages { get; set; } = [];

        public Node Child(SegmentPattern segment)
        {
            if (segment.Literal is { } text)
            {
                if (!_literals.TryGetValue(text, out var next))
                    _literals[text] = next = new Node();
                return next;
            }

            if (Parameters.Find(b => b.Segment.MatchesSameAs(segment)) is { } known)
                return known.Next;
            var branch = new Branch(segment, new Node());
            var place = Parameters.FindIndex(b => Rank(b.Segment).CompareTo(Rank(segment)) < 0);
            Parameters.Insert(place < 0 ? Parameters.Count : place, branch);
            return branch.Next;
        }

        private static (int, int) Rank(SegmentPattern segment) => (segment.Prefix.Length, segment.Suffix.Length);
    }

    private sealed record Branch(SegmentPattern Segment, Node Next)
    {
        /// <summary>
        /// A segment that cannot be decoded matches a parameter without prefix and suffix, which then reports it as malformed.
        /// </summary>
        public bool Accepts(RequestTarget target, int at, ReadOnlySpan<char> text) =>
            target.Segments[at].IsBad
                ? Segment.Prefix.Length + Segment.Suffix.Length == 0
                : text.Length >= Segment.Prefix.Length + Segment.Suffix.Length
                    && text.StartsWith(Segment.Prefix, StringComparison.Ordinal)
                    && text.EndsWith(Segment.Suffix, StringComparison.Ordinal);
    }
}
