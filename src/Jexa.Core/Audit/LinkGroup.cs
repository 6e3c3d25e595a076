namespace Jexa.Core.Audit;

/// <summary>The links of a list that have one form: the same place in each row, the same address but for the ID.</summary>
/// <param name="Pattern">For people, such as <c>/bridges/{…}</c>.</param>
/// <param name="Part">Where the ID is: the number of the path's segment, or the name of the parameter.</param>
public sealed record LinkGroup(string Pattern, IdPart Part, IReadOnlyList<ListRow> Rows)
{
    /// <summary>Whether links lead to the same kind of record: the same path, the ID in the same place.</summary>
    public bool IsLike(LinkGroup other) => Part == other.Part && Pattern.Split('?')[0] == other.Pattern.Split('?')[0];

    /// <summary>Where in the tree its links stand: tags and classes.</summary>
    public string Place { get; init; } = "";

    /// <summary>The number of different addresses.</summary>
    public int Addresses { get; } = Rows.Select(row => row.Address).Distinct().Count();
}
