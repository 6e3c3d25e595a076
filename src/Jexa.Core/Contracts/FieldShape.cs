namespace Jexa.Core.Contracts;

/// <summary>How a field looks in JSON.</summary>
public enum FieldShape
{
    /// <summary>A value of the field's own type.</summary>
    Plain,

    /// <summary>Another record: its ID, address and label.</summary>
    Reference,

    /// <summary>A picture: its name and address.</summary>
    Picture,

    /// <summary>A recording or another file: its name and address.</summary>
    StoredFile,
}
