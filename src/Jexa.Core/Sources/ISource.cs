using Jexa.Core.Plans;
using Jexa.Core.Schemas;

namespace Jexa.Core.Sources;

/// <summary>
/// A place where records live. Owns its connections and prepared commands; outlives the sites that use it. Safe for
/// concurrent use. Every call may throw <see cref="SourceException"/>.
/// </summary>
public interface ISource : IAsyncDisposable
{
    /// <summary>Says what the source holds at this moment.</summary>
    ValueTask<SourceSchema> DescribeAsync(CancellationToken cancellation);

    /// <summary>Touches the source as lightly as shows that it is there and readable.</summary>
    ValueTask ProbeAsync(CancellationToken cancellation);

    /// <summary>Compiles a query once, for many runs. Does not touch the source.</summary>
    IPreparedQuery Prepare(RecordQuery query);

    /// <summary>Compiles a count once, for many runs. Does not touch the source.</summary>
    IPreparedQuery Prepare(CountQuery query);

    /// <summary>Compiles a grouping once, for many runs. Does not touch the source.</summary>
    IPreparedQuery Prepare(GroupQuery query);

    /// <summary>Compiles several queries into one, for many runs. Does not touch the source.</summary>
    IPreparedQuery Prepare(CombinedQuery query);

    /// <summary>How many queries it runs at once; more wait for one of these to end.</summary>
    int Connections { get; }

    /// <summary>
    /// Whether what is read may be behind what was changed last, unless <see cref="IPreparedQuery.Latest"/> is asked.
    /// </summary>
    bool HasReplica => false;

    /// <summary>Begins to change records, in a transaction of its own.</summary>
    ValueTask<IWriteSession> BeginWriteAsync(CancellationToken cancellation);

    /// <summary>
    /// Looks at a query of the developer's own without running it: the columns it gives, the named parameters it has, and
    /// what is wrong with it.
    /// </summary>
    ValueTask<QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation);
}
