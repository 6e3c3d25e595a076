namespace Jexa.Core.Definitions;

public enum PageKind
{
    List,
    Detail,
    Text,
    Edit,
    New,
    Delete,
}
