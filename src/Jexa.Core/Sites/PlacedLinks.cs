using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>The links that a page or block writes, by where they stand.</summary>
internal sealed record PlacedLinks(Dictionary<string, LinkPlan> OnColumns, LinkPlan? OnRow, List<LinkPlan> Apart);
