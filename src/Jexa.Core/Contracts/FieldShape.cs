using Jexa.Core.Edits;
using Jexa.Core.Keys;
using Jexa.Core.Sites;
using Jexa.Core.Values;
using Jexa.Core.Views;

namespace Jexa.Core.Contracts;

public enum FieldShape
{
    Plain,

    /// <summary>Another record: its ID, address and label.</summary>
    Reference,

    /// <summary>A picture: its name and address.</summary>
    Picture,
}
