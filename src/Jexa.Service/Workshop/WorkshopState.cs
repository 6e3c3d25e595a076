using Jexa.Core.Compiler;
using Jexa.Core.Rewriting;
using Jexa.Service.Hosting;

namespace Jexa.Service.Workshop;

/// <summary>A working copy and what it would come to.</summary>
/// <param name="Map">What stands where in the text; null if no named change can be made to it.</param>
/// <param name="Disk">The app file as it is on the disk.</param>
/// <param name="Revision">Increases with each change of the working copy.</param>
public sealed record WorkshopState(WorkingCopy Copy, Compilation Compilation, FileMap? Map, FileOnDisk Disk, int Revision)
{
    /// <summary>Whether there is something to save.</summary>
    public bool IsChanged => Copy.IsChanged || (Disk.IsGone && Copy.Text.Length > 0);

    /// <summary>Whether the file was changed by somebody else since the working copy was begun.</summary>
    public bool DiskDiffers => Disk.Text is { } text && text != Copy.Base;
}
