using Jexa.Core.Plans;
using Jexa.Core.Schemas;

namespace Jexa.Core.Sources;

/// <summary>
/// A place with records. It owns its connections and prepared commands, and lives longer than the sites that use it. Safe for
/// concurrent use. Every call may throw <see cref="SourceException"/>.
/// </summary>
public interface ISource : IAsyncDisposable
{
    /// <summary>Reads what the source contains at this moment.</summary>
    ValueTask<SourceSchema> DescribeAsync(CancellationToken cancellation);

    /// <summary>Checks with the lightest possible request that the source is there and readable.</summary>
    ValueTask ProbeAsync(CancellationToken cancellation);

    /// <summary>Compiles a query once, for many runs. Does not access the source.</summary>
    IPreparedQuery Prepare(RecordQuery query);

    /// <summary>Compiles a count once, for many runs. Does not access the source.</summary>
    IPreparedQuery Prepare(CountQuery query);

    /// <summary>Compiles a grouping once, for many runs. Does not access the source.</summary>
    IPreparedQuery Prepare(GroupQuery query);

    /// <summary>Compiles several queries into one, for many runs. Does not access the source.</summary>
    IPreparedQuery Prepare(CombinedQuery query);

    /// <summary>The number of queries it runs at the same time. Others wait.</summary>
    int Connections { get; }

    /// <summary>Whether a read may miss the latest changes, unless <see cref="IPreparedQuery.Latest"/> is used.</summary>
    bool HasReplica => false;

    /// <summary>Begins a transaction that changes records.</summary>
    ValueTask<IWriteSession> BeginWriteAsync(CancellationToken cancellation);

    /// <summary>
    /// Examines a developer's own query without running it: its columns, its named parameters, and what is wrong with it.
    /// </summary>
    ValueTask<QuerySchema> DescribeQueryAsync(string query, CancellationToken cancellation);
}
