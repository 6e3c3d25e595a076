namespace Jexa.Service.Management;

/// <summary>A name of the app file, with words about it.</summary>
/// <param name="Detail">What it is, or what people see of it.</param>
public sealed record ChoiceInfo(string Text, string Detail);
