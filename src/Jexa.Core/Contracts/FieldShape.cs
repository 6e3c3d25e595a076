namespace Jexa.Core.Contracts;

public enum FieldShape
{
    Plain,

    /// <summary>Another record: its ID, address and label.</summary>
    Reference,

    /// <summary>A picture: its name and address.</summary>
    Picture,
}
