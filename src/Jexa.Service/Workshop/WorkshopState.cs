using Jexa.Core.Compiler;
using Jexa.Core.Rewriting;

namespace Jexa.Service.Workshop;

/// <summary>A working copy and what it would come to.</summary>
/// <param name="Map">What stands where in the text; null if no named change can be made to it.</param>
/// <param name="Disk">The app file as it is on the disk; null if it is not there or cannot be read.</param>
/// <param name="Revision">Increases with each change of the working copy.</param>
public sealed record WorkshopState(WorkingCopy Copy, Compilation Compilation, FileMap? Map, string? Disk, int Revision)
{
    /// <summary>Whether the file was changed by somebody else since the working copy was begun.</summary>
    public bool DiskDiffers => Disk != Copy.Base;
}
