namespace Jexa.Service.Management;

/// <summary>A place of a text that is being typed.</summary>
/// <param name="Text">The text as it is in the editor.</param>
/// <param name="Offset">The place, in UTF-16 units from 0.</param>
public sealed record TextPlaceRequest(string Text, int Offset);
