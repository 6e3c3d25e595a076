using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>The links of a page or block in the app file, by their place.</summary>
internal sealed record PlacedLinks(Dictionary<string, LinkPlan> OnColumns, LinkPlan? OnRow, List<LinkPlan> Apart);
