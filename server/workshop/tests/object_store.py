"""A stand-in for an S3-compatible store, on loopback: what several machines share."""

import logging
import uuid

import boto3
from moto.server import ThreadedMotoServer

KEY, REGION = "stand-in", "us-east-1"


class ObjectStore:
    """A store in this process, empty. Use as a context manager."""

    def __enter__(self) -> "ObjectStore":
        logging.getLogger("werkzeug").setLevel(logging.ERROR)
        self._port = 0
        self.start()
        self.endpoint, self.bucket = f"http://127.0.0.1:{self._port}", f"sounds-{uuid.uuid4()}"
        named = {"aws_access_key_id": KEY, "aws_secret_access_key": KEY, "region_name": REGION}
        self.client = boto3.client("s3", endpoint_url=self.endpoint, **named)
        self.client.create_bucket(Bucket=self.bucket)
        return self

    def __exit__(self, *_: object) -> None:
        self.stop()

    def start(self) -> None:
        """Answer, at the same port again after `stop`; what was kept is kept."""
        self._server = ThreadedMotoServer("127.0.0.1", self._port, verbose=False)
        self._server.start()
        self._port = self._server.get_host_and_port()[1]

    def stop(self) -> None:
        """Answer no more."""
        self._server.stop()

    def settings(self) -> dict[str, str]:
        """Return what an installation is told."""
        told = {"ENDPOINT": self.endpoint, "BUCKET": self.bucket, "REGION": REGION, "KEY": KEY, "SECRET": KEY}
        return {f"HEMATITE_S3_{name}": value for name, value in told.items()}

    def storage(self) -> dict[str, object]:
        """Return what `STORAGES` has of it."""
        options = {"bucket_name": self.bucket, "endpoint_url": self.endpoint, "region_name": REGION}
        options |= {"access_key": KEY, "secret_key": KEY, "file_overwrite": True, "default_acl": None}
        return {"BACKEND": "storages.backends.s3.S3Storage", "OPTIONS": options}

    def names(self) -> set[str]:
        """Return what lies in it."""
        return {one["Key"] for one in self.client.list_objects_v2(Bucket=self.bucket).get("Contents", [])}
