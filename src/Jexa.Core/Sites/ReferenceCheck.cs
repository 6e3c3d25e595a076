using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A foreign key of several columns: the row it leads to must be there.</summary>
public sealed record ReferenceCheck(IReadOnlyList<SiteField> Fields, IPreparedQuery Query, string One);
