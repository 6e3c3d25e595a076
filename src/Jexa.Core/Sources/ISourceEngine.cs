namespace Jexa.Core.Sources;

/// <summary>Opens sources of one kind. Each engine has its own folder in Jexa.Sources.</summary>
public interface ISourceEngine
{
    /// <summary>The word after <c>engine:</c>.</summary>
    string Name { get; }

    /// <summary>
    /// Whether its sources know no keys, and are told which columns records use as keys (<see
    /// cref="SourceSettings.DeclaredKeys"/>).
    /// </summary>
    bool TakesKeys => false;

    /// <summary>Whether its sources may read from a replica (<see cref="SourceSettings.Replica"/>).</summary>
    bool TakesReplica => false;

    /// <summary>
    /// Whether its sources may be behind a proxy that pools transactions (<see cref="SourceSettings.PoolsTransactions"/>).
    /// </summary>
    bool TakesPooling => false;

    /// <summary>
    /// Quotes the value of a variable for a connection string, so that it cannot be read as anything but a value.
    /// </summary>
    string Quote(string value) => value;

    /// <summary>Creates the source without accessing it. The first use shows whether it is there.</summary>
    /// <exception cref="SourceException">The connection string cannot be read.</exception>
    ISource Open(SourceSettings settings);
}
