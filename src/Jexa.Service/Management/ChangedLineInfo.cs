namespace Jexa.Service.Management;

/// <summary>A line that a change takes away or adds.</summary>
/// <param name="New">Whether it is added.</param>
/// <param name="Line">Its number, from 1: in the new text if it is added, else in the old one.</param>
public sealed record ChangedLineInfo(bool New, int Line, string Text);
