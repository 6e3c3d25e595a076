using Jexa.Core.Values;

namespace Jexa.Core.Schemas;

public enum TableKind
{
    Table,
    View,
}
