using Jexa.Core.Addresses;
using Jexa.Core.Definitions;
using Jexa.Core.Formats;
using Jexa.Core.Keys;
using Jexa.Core.Plans;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Sites;

/// <summary>A page whose source has not answered since the service began: nothing is known of it but its path.</summary>
/// <param name="source">The source that it waits for.</param>
public sealed class WaitingPage(PageHead head, string source) : Page(head)
{
    public override string Kind => "waiting";

    public override IReadOnlyList<PageLink> Links => [];

    public string Source { get; } = source;
}
