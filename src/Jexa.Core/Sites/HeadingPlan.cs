using System.Collections.Concurrent;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A heading with parameters in it.</summary>
/// <param name="Pieces">In order; empty if the heading is always the fallback.</param>
/// <param name="Fallback">Said where a parameter of it is absent.</param>
public sealed record HeadingPlan(IReadOnlyList<HeadingPiece> Pieces, string Fallback);
