using Jexa.Core.Views;

namespace Jexa.Core.Compiler;

/// <summary>The links that a page or block writes, by where they stand.</summary>
internal sealed record PlacedLinks(Dictionary<string, LinkPlan> OnColumns, LinkPlan? OnRow, List<LinkPlan> Apart);
