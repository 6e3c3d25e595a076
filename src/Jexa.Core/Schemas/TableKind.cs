namespace Jexa.Core.Schemas;

public enum TableKind
{
    Table,
    View,
}
