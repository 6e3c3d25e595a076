namespace Jexa.Core.Sources;

/// <summary>Opens sources of one kind. One implementation a folder in Jexa.Sources.</summary>
public interface ISourceEngine
{
    /// <summary>The word after <c>engine:</c>.</summary>
    string Name { get; }

    /// <summary>
    /// Whether its sources know no keys of their own and are told those that records take
    /// (<see cref="SourceSettings.DeclaredKeys"/>).
    /// </summary>
    bool TakesKeys => false;

    /// <summary>Whether its sources may have a replica that is read instead (<see cref="SourceSettings.Replica"/>).</summary>
    bool TakesReplica => false;

    /// <summary>
    /// Whether its sources can be behind a proxy that pools transactions (<see cref="SourceSettings.PoolsTransactions"/>).
    /// </summary>
    bool TakesPooling => false;

    /// <summary>
    /// A value of a variable as it stands within a connection, so that nothing in it reads as more than a value.
    /// </summary>
    string Quote(string value) => value;

    /// <summary>Makes the source without touching it: whether it is there is seen on first use.</summary>
    /// <exception cref="SourceException">The connection cannot be read.</exception>
    ISource Open(SourceSettings settings);
}
