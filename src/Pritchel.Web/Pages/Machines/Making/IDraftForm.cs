using Pritchel.Core.Machines;
using Pritchel.Core.Machines.Making;

namespace Pritchel.Web.Pages.Machines.Making;

/// <summary>A form about one thing of a machine that is being drawn.</summary>
public interface IDraftForm
{
    /// <summary>Identity of the thing before it was changed; null for a new one.</summary>
    string? Old => null;

    /// <summary>The machine with what was typed.</summary>
    /// <exception cref="ChangeRefusedException">Something typed is not allowed.</exception>
    MachineChange Change(Machine machine);
}
