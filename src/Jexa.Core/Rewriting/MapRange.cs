namespace Jexa.Core.Rewriting;

/// <summary>A part of a text, by lines and columns from 1. The end is behind the last character.</summary>
public sealed record MapRange(int Line, int Column, int EndLine, int EndColumn);
