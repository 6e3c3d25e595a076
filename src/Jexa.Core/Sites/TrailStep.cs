using System.Collections.Concurrent;
using Jexa.Core.Definitions;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Sources;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <param name="Presence">A column of the record that is never empty if it is there and visible.</param>
public sealed record TrailStep(TextPlan Label, int Presence, LinkPlan? Link);
