import { useQuery } from "@tanstack/react-query";
import { reachRoutes } from "@yosegi/contract";
import styled from "styled-components";
import { asking, Unanswered } from "../api/index.ts";
import { color, Section, Sub } from "../ui/index.ts";

/** How a handheld or a phone comes in: the address as a code to scan, and what it has to trust. */
export function Handhelds() {
  const { data, error } = useQuery(asking(reachRoutes.reach, {}));
  if (!data) return <Unanswered error={error} />;
  const [first] = data.addresses;
  return (
    <Section title="Handhelds">
      {first === undefined ? (
        <Sub>
          Only this computer reaches Yosegi now. Start it with YOSEGI_HTTPS=1 to bring in handhelds and
          phones: with a secure address they go on working while the connection is lost, and scan with their
          camera.
        </Sub>
      ) : (
        <>
          <Sub>Scan the code with the device, or type the address. It opens what is to be picked.</Sub>
          <Codes>
            {data.addresses.map(({ address, svg }) => (
              <li key={address}>
                <img
                  alt={`QR code of ${address}`}
                  src={`data:image/svg+xml;utf8,${encodeURIComponent(svg)}`}
                />
                <a href={`${address}/pick`}>{address}</a>
              </li>
            ))}
          </Codes>
          {data.certificate ? (
            <Sub>
              Once on each device: open <a href={reachRoutes.authority.path}>the certificate</a> at that
              address, install it and trust it. Android: Settings, Security, Install a certificate, CA
              certificate. iPhone: install the profile, then Settings, General, About, Certificate Trust
              Settings.
            </Sub>
          ) : (
            !first.address.startsWith("https:") && (
              <Sub>
                Without a secure address a device loses its scans with the connection, and can't use its
                camera: start Yosegi with YOSEGI_HTTPS=1.
              </Sub>
            )
          )}
        </>
      )}
    </Section>
  );
}

const Codes = styled.ul`
  list-style: none;
  margin: 8px 0;
  padding: 0;
  display: flex;
  flex-wrap: wrap;
  gap: 20px;
  img {
    display: block;
    width: 132px;
    height: 132px;
    padding: 8px;
    background: white;
    border: 1px solid ${color.line};
  }
`;
