using Pritchel.Core.Identity;
using Pritchel.Core.Machines;

namespace Pritchel.Core.Rewiring.Plugs;

/// <content>What cranks, sparks and charges.</content>
internal sealed partial class StandIns
{
    private string StartSolenoid()
    {
        Add("solenoid", "start solenoid", "start-solenoid", OnEngine, ["B", "M", "S", "case"]);
        Mounted("solenoid", "block");
        Add("starter", "starter", "starter", OnEngine, ["post", "case"]);
        Mounted("starter", "block");
        Wire("battery.+", "solenoid.B", cable: true);
        Wire("solenoid.M", "starter.post", cable: true);
        duties.Add(
            new Duty(
                new DutyId("cranks"),
                "Cranks",
                new NamedSetting([KeyValuePair.Create(new ControlId("key"), new PositionId("START"))]),
                new PartId("starter"),
                new PartId("solenoid")
            )
        );
        return "solenoid.S";
    }

    private string Igniter()
    {
        Add("unit", "ignition unit", "igniter", OnEngine, ["+", "coil", "pickup+", "pickup-", "case"]);
        Mounted("unit", "block");
        Add("unit-pickup", "its pickup", "pickup", OnEngine, ["+", "-"]);
        Add("unit-coil", "its coil", "ignition-coil", OnEngine, ["+", "-"]);
        Wire("unit-pickup.+", "unit.pickup+");
        Wire("unit-pickup.-", "unit.pickup-");
        Wire("unit.+", "unit-coil.+");
        Wire("unit-coil.-", "unit.coil");
        return "unit.+";
    }

    /// <summary>An igniter and coil on the machine, for a pickup on the engine.</summary>
    private void Pulsed(int count)
    {
        if (parts.ContainsKey("igniter"))
        {
            return;
        }

        Add("igniter", "ignition unit", "igniter", OnMachine, ["+", "coil", "pickup+", "pickup-", "case"]);
        Mounted("igniter", "frame");
        Add("coil", "ignition coil", "ignition-coil", OnMachine, ["+", "-"]);
        Wire(KeyOn(), "igniter.+");
        Wire("igniter.+", "coil.+");
        Wire("coil.-", "igniter.coil");
        Add("pickup", "pickup", "pickup", OnEngine, ["+", "-"]);
        if (count == 1)
        {
            Bolt("block", "pickup");
            Wire("pickup.-", "block.bolt pickup");
            Bolt("frame", "pickup");
            Wire("igniter.pickup-", "frame.bolt pickup");
        }
    }

    /// <summary>A winding on the engine with so many leads, its regulator on the machine.</summary>
    /// <returns>Terminals of the regulator and of the winding, by lead.</returns>
    private (string[] Regulator, string[] Winding) Charging(int count)
    {
        var (regulator, winding) = count switch
        {
            1 => (new[] { "ac" }, new[] { "out" }),
            2 => (new[] { "a", "b" }, new[] { "a", "b" }),
            _ => (new[] { "a", "b", "c" }, new[] { "a", "b", "c" }),
        };
        if (!parts.ContainsKey("winding"))
        {
            var (rectifies, makes) = count switch
            {
                1 => ("regulator-half-wave", "charge-winding"),
                2 => ("regulator-1", "stator-1"),
                _ => ("regulator-3", "stator-3"),
            };
            Add("winding", "charge winding", makes, OnEngine, [.. winding, "case"]);
            Mounted("winding", "block");
            Add("regulator", "regulator", rectifies, OnMachine, [.. regulator, "dc", "case"]);
            Mounted("regulator", "frame");
            Wire("regulator.dc", Fused("charge", "battery.+"));
        }

        return (regulator, winding);
    }

    /// <summary>A winding and its regulator, both on the engine.</summary>
    private string Regulated()
    {
        Add("dc-winding", "charge winding", "stator-1", OnEngine, ["a", "b", "case"]);
        Mounted("dc-winding", "block");
        Add("dc-regulator", "regulator", "regulator-1", OnEngine, ["a", "b", "dc", "case"]);
        Mounted("dc-regulator", "block");
        Wire("dc-winding.a", "dc-regulator.a");
        Wire("dc-winding.b", "dc-regulator.b");
        return "dc-regulator.dc";
    }
}
