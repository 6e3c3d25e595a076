using System.Runtime.CompilerServices;
using Jexa.Core.Sites;
using Jexa.Core.Sources;

namespace Jexa.Core.Serving;

/// <summary>The shares of all pages and sources. Each lives as long as its page or source.</summary>
internal sealed class SourceShares(TimeProvider clock)
{
    private readonly ConditionalWeakTable<Page, PageShare> _pages = [];
    private readonly ConditionalWeakTable<ISource, SourceShare> _sources = [];

    /// <summary>The share of a page that reads from a source.</summary>
    public PageShare Of(Page page) =>
        _pages.TryGetValue(page, out var known)
            ? known
            : _pages.GetValue(page, made => new PageShare(
                _sources.GetValue(made.Record!.Source, source => new SourceShare(source, clock)),
                clock
            ));
}
