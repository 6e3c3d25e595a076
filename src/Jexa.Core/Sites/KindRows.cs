using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>All records of a kind with all that is not secret, for a sweep.</summary>
/// <param name="Rows">Its links are those to the pages of a record by its ID.</param>
/// <param name="Label">The label of a record; nothing if it is blank.</param>
/// <param name="References">Its foreign keys to other record kinds of the app.</param>
public sealed record KindRows(RowSet Rows, TextPlan Label, IReadOnlyList<ReferenceCells> References);
