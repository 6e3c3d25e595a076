using Jexa.Core.Plans;

namespace Jexa.Core.Sites;

/// <summary>What a row tells of a foreign key.</summary>
/// <param name="Own">The cells of the foreign key.</param>
/// <param name="Seen">A cell that is filled exactly if the other record exists and may be seen.</param>
/// <param name="There">A cell that is filled exactly if the other record exists.</param>
/// <param name="Lost">The keys of rows whose foreign key is filled, and whose other record does not exist.</param>
/// <param name="Hidden">The keys of rows whose other record exists, and may not be seen.</param>
public sealed record ReferenceCells(
    FieldStep Step,
    IReadOnlyList<int> Own,
    int Seen,
    int There,
    RecordQuery Lost,
    RecordQuery Hidden
);
