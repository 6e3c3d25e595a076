using System.Data.Common;
using Jexa.Core.Schemas;
using Jexa.Core.Sources;
using Jexa.Core.Values;

namespace Jexa.Sources.Sql;

/// <summary>What a connection is used for.</summary>
internal enum ServerUse
{
    Reading,

    /// <summary>Reading where the app file says that a copy is.</summary>
    ReadingReplica,
    Changing,
}
